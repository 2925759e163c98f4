package ebb.store.applications;

import ebb.core.person.PersonId;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** People whose accounts were not as they should be when they were last looked at. */
public final class Drifts {
  private static final String REMOVE = "delete from drift where application = ? and person_id = ?";

  /** Since when it is so stays what it was. */
  private static final String ADD =
      "insert into drift (application, person_id, since) select ?, ?, ? where not exists"
          + " (select 1 from drift where application = ? and person_id = ?)";

  /** At most so many, in the order of their numbers. */
  public Set<PersonId> people(
      StatelessSession session, String application, PersonId after, int limit) {
    return session
        .createNativeQuery(
            "select person_id from drift where application = :application and person_id > :after"
                + " order by person_id",
            Long.class)
        .setParameter("application", application)
        .setParameter("after", after.value())
        .setMaxResults(limit)
        .getResultStream()
        .map(PersonId::new)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  public long count(StatelessSession session, String application) {
    return session
        .createNativeQuery(
            "select count(*) from drift where application = :application", Long.class)
        .setParameter("application", application)
        .getSingleResult();
  }

  /**
   * Keeps what a look at people came to.
   *
   * @param drifting those of them who drifted
   */
  public void keep(
      StatelessSession session,
      String application,
      Collection<PersonId> who,
      Set<PersonId> drifting,
      Instant at) {
    session.doWork(
        connection -> {
          try (var remove = connection.prepareStatement(REMOVE);
              var add = connection.prepareStatement(ADD)) {
            for (var person : who) {
              if (drifting.contains(person)) {
                add.setString(1, application);
                add.setLong(2, person.value());
                add.setObject(3, at.atOffset(ZoneOffset.UTC));
                add.setString(4, application);
                add.setLong(5, person.value());
                add.addBatch();
              } else {
                remove.setString(1, application);
                remove.setLong(2, person.value());
                remove.addBatch();
              }
            }
            add.executeBatch();
            remove.executeBatch();
          }
        });
  }
}
