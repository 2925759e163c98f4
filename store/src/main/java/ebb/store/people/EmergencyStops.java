package ebb.store.people;

import ebb.core.operator.Reach;
import ebb.core.person.EmergencyStop;
import ebb.core.person.PersonId;
import ebb.store.ReachClause;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** The emergency stops in force. */
public final class EmergencyStops {
  public Optional<EmergencyStop> of(StatelessSession session, PersonId person) {
    return Optional.ofNullable(session.get(EmergencyStopEntity.class, person.value()))
        .map(EmergencyStopEntity::toStop);
  }

  /** Which of these people are stopped. */
  public Set<PersonId> among(StatelessSession session, Collection<PersonId> people) {
    // Hardly ever is anybody: that is known without asking for each.
    return people.isEmpty() || list(session, Reach.EVERYBODY, 1).isEmpty()
        ? Set.of()
        : session
            .createSelectionQuery(
                "select personId from EmergencyStopEntity where personId in (:people)", Long.class)
            .setParameterList("people", people.stream().map(PersonId::value).toList())
            .getResultStream()
            .map(PersonId::new)
            .collect(Collectors.toSet());
  }

  /** By the people's numbers. */
  public List<EmergencyStop> list(StatelessSession session, Reach reach, int max) {
    var within = ReachClause.on("personId", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "from EmergencyStopEntity where personId > 0"
                        + within.within()
                        + " order by personId",
                    EmergencyStopEntity.class)
                .setMaxResults(max))
        .getResultStream()
        .map(EmergencyStopEntity::toStop)
        .toList();
  }

  /** In the place of the one there was. */
  public void put(StatelessSession session, EmergencyStop stop) {
    var row = new EmergencyStopEntity();
    row.personId = stop.person().value();
    row.since = stop.since();
    row.by = stop.by();
    row.reason = stop.reason();
    row.changeSetId = stop.changeSet();
    session.upsert(row);
  }

  /** False if there is none. */
  public boolean lift(StatelessSession session, PersonId person) {
    return session
            .createMutationQuery("delete from EmergencyStopEntity where personId = :person")
            .setParameter("person", person.value())
            .executeUpdate()
        == 1;
  }
}
