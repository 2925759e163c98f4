package ebb.store.people;

import ebb.core.person.PersonId;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import org.hibernate.StatelessSession;

/** Of whose last days their sponsors were told. */
public final class EndWarnings {
  /**
   * People of these kinds whose last day is within a span, and of whose last day nobody was told;
   * soonest first.
   */
  public List<PersonId> due(
      StatelessSession session,
      LocalDate from,
      LocalDate until,
      Collection<String> kinds,
      int limit) {
    return session
        .createSelectionQuery(
            "select p.id from PersonEntity p where p.endDate between :from and :until"
                + " and lower(p.userType) in (:kinds) and not exists"
                + " (select 1 from EndWarningEntity w where w.personId = p.id"
                + " and w.endDate = p.endDate) order by p.endDate, p.id",
            Long.class)
        .setParameter("from", from)
        .setParameter("until", until)
        .setParameterList("kinds", kinds)
        .setMaxResults(limit)
        .stream()
        .map(PersonId::new)
        .toList();
  }

  public void told(StatelessSession session, PersonId person, LocalDate lastDay) {
    var row = new EndWarningEntity();
    row.personId = person.value();
    row.endDate = lastDay;
    session.upsert(row);
  }
}
