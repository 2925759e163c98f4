package ebb.store.departures;

import ebb.core.person.PersonId;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Who gets what a person leaves behind, where somebody was named ahead. */
public final class Successors {
  public Optional<PersonId> of(StatelessSession session, PersonId person) {
    return Optional.ofNullable(session.get(SuccessorEntity.class, person.value()))
        .map(row -> new PersonId(row.successorId));
  }

  /**
   * In the place of the one there was.
   *
   * @param successor null for nobody
   */
  public void put(
      StatelessSession session, PersonId person, PersonId successor, String by, Instant at) {
    if (successor == null) {
      session
          .createMutationQuery("delete from SuccessorEntity where personId = :person")
          .setParameter("person", person.value())
          .executeUpdate();
      return;
    }
    var row = new SuccessorEntity();
    row.personId = person.value();
    row.successorId = successor.value();
    row.by = by;
    row.at = at;
    session.upsert(row);
  }
}
