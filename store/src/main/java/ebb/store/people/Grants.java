package ebb.store.people;

import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.store.Among;
import ebb.store.Numbers;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Groups given by hand, and memberships that sources know of. */
public final class Grants {
  public long number(StatelessSession session) {
    return Numbers.next(session, "grant_seq");
  }

  /** Grants that were not ended, whatever their dates. */
  public Map<PersonId, List<Grant>> of(StatelessSession session, Collection<PersonId> people) {
    var all = new ArrayList<Grant>();
    Among.each(
        session,
        "select id, person_id, application, group_name, reason, from_date, until_date, source"
            + " from given where person_id in (%s) and ended_by is null",
        people.stream().map(PersonId::value).distinct().toList(),
        row -> all.add(grant(row)));
    return all.stream().collect(Collectors.groupingBy(Grant::person));
  }

  private static Grant grant(ResultSet row) throws SQLException {
    return new Grant(
        row.getLong(1),
        new PersonId(row.getLong(2)),
        row.getString(3),
        row.getString(4),
        row.getString(5),
        row.getObject(6, LocalDate.class),
        row.getObject(7, LocalDate.class),
        row.getString(8));
  }

  /** People in groups because this source says so, in the order of their numbers. */
  public List<PersonId> peopleOf(
      StatelessSession session, String source, PersonId after, int limit) {
    return session
        .createSelectionQuery(
            "select distinct personId from GrantEntity"
                + " where source = :source and endedBy is null and personId > :after"
                + " order by personId",
            Long.class)
        .setParameter("source", source)
        .setParameter("after", after == null ? 0 : after.value())
        .setMaxResults(limit)
        .stream()
        .map(PersonId::new)
        .toList();
  }

  public Optional<Grant> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(GrantEntity.class, id))
        .filter(row -> row.endedBy == null)
        .map(GrantEntity::toGrant);
  }

  /** What a cause gave and nothing has ended since. */
  public List<Grant> givenBy(StatelessSession session, long cause) {
    return where(session, "cause = :cause and endedBy is null", cause);
  }

  /** What a cause ended. */
  public List<Grant> endedBy(StatelessSession session, long cause) {
    return where(session, "endedBy = :cause", cause);
  }

  /** Gives, or gives again what was ended. */
  public void give(StatelessSession session, Grant grant, long cause) {
    var row = new GrantEntity();
    row.id = grant.id();
    row.personId = grant.person().value();
    row.application = grant.application();
    row.group = grant.group();
    row.reason = grant.reason();
    row.from = grant.from();
    row.until = grant.until();
    row.source = grant.source();
    row.cause = cause;
    session.upsert(row);
  }

  public void end(StatelessSession session, long grant, long cause) {
    session
        .createMutationQuery("update GrantEntity set endedBy = :cause where id = :id")
        .setParameter("cause", cause)
        .setParameter("id", grant)
        .executeUpdate();
  }

  private static List<Grant> where(StatelessSession session, String condition, long cause) {
    return session
        .createSelectionQuery("from GrantEntity where " + condition, GrantEntity.class)
        .setParameter("cause", cause)
        .stream()
        .map(GrantEntity::toGrant)
        .toList();
  }
}
