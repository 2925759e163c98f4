package ebb.store.people;

import ebb.core.person.PersonId;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.hibernate.StatelessSession;

/** Identities that are no human beings, and who answers for them: their managers. */
public final class TechnicalIdentities {
  private static final String TECHNICAL = " and lower(p.userType) = 'technical'";

  /** More of one person's are not looked at. */
  private static final int MOST = 200;

  /** Those of these people who answer for any. */
  public Set<PersonId> keepersAmong(StatelessSession session, Collection<PersonId> people) {
    var keepers = new HashSet<PersonId>();
    if (!people.isEmpty()) {
      session
          .createSelectionQuery(
              "select distinct p.managerId from PersonEntity p where p.managerId in (:people)"
                  + TECHNICAL,
              Long.class)
          .setParameterList("people", people.stream().map(PersonId::value).toList())
          .stream()
          .map(PersonId::new)
          .forEach(keepers::add);
    }
    return keepers;
  }

  /** Those that somebody answers for, in the order of their numbers. */
  public List<StoredPerson> of(StatelessSession session, PersonId keeper) {
    return session
        .createSelectionQuery(
            "from PersonEntity p where p.managerId = :keeper" + TECHNICAL + " order by p.id",
            PersonEntity.class)
        .setParameter("keeper", keeper.value())
        .setMaxResults(MOST)
        .stream()
        .map(PersonMapper::person)
        .toList();
  }
}
