package ebb.store.people;

import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import ebb.store.Numbers;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Orders that nothing of a person may be removed. */
public final class Holds {
  /** The hold in force on a day; the oldest if there are several. */
  public Optional<Hold> inForce(StatelessSession session, PersonId person, LocalDate day) {
    return of(session, person).stream().filter(hold -> hold.isInForceOn(day)).findFirst();
  }

  /** Holds that were not lifted. */
  public List<Hold> of(StatelessSession session, PersonId person) {
    return session
        .createSelectionQuery(
            "from HoldEntity where personId = :person and liftedAt is null order by id",
            HoldEntity.class)
        .setParameter("person", person.value())
        .stream()
        .map(HoldEntity::toHold)
        .toList();
  }

  public Hold set(
      StatelessSession session, PersonId person, String reason, String setBy, LocalDate until) {
    var row = new HoldEntity();
    row.id = Numbers.next(session, "hold_seq");
    row.personId = person.value();
    row.reason = reason;
    row.setBy = setBy;
    row.until = until;
    session.insert(row);
    return row.toHold();
  }

  /** Lifts a hold; false if there is none of this number in force. */
  public boolean lift(StatelessSession session, PersonId person, long hold, Instant at) {
    return session
            .createMutationQuery(
                "update HoldEntity set liftedAt = :at"
                    + " where id = :id and personId = :person and liftedAt is null")
            .setParameter("at", at)
            .setParameter("id", hold)
            .setParameter("person", person.value())
            .executeUpdate()
        == 1;
  }
}
