package ebb.store.turns;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;

/** Who does work of which only one goes on at a time, and until when they hold it. */
public final class Turns {
  public static final List<Class<?>> ENTITIES = List.of(TurnEntity.class);

  /**
   * Takes a turn for which nobody's lease runs, or that is the holder's already.
   *
   * @param what the work, as those are told who wait
   * @return what goes on instead; empty if the turn is the holder's now
   */
  public Optional<String> take(
      StatelessSession session,
      String name,
      String holder,
      String what,
      Instant now,
      Instant until) {
    var turn = session.get(TurnEntity.class, name, LockMode.PESSIMISTIC_WRITE);
    if (turn == null) {
      turn = new TurnEntity();
      turn.name = name;
      fill(turn, holder, what, until);
      session.insert(turn);
      return Optional.empty();
    }
    if (turn.until.isAfter(now) && !turn.holder.equals(holder)) {
      return Optional.of(turn.what);
    }
    fill(turn, holder, what, until);
    session.update(turn);
    return Optional.empty();
  }

  private static void fill(TurnEntity turn, String holder, String what, Instant until) {
    turn.holder = holder;
    turn.what = what;
    turn.until = until;
  }

  /**
   * Goes on holding all that is held.
   *
   * @return how many turns that are
   */
  public int keep(StatelessSession session, List<String> holders, Instant until) {
    return session
        .createMutationQuery("update TurnEntity set until = :until where holder in (:holders)")
        .setParameter("until", until)
        .setParameter("holders", holders)
        .executeUpdate();
  }

  /** Lets the next one have its turn; called again it does nothing. */
  public void give(StatelessSession session, String holder) {
    session
        .createMutationQuery("delete from TurnEntity where holder = :holder")
        .setParameter("holder", holder)
        .executeUpdate();
  }

  /** What processes that are dead did does not go on. */
  public void endLeases(StatelessSession session) {
    session.createMutationQuery("delete from TurnEntity").executeUpdate();
  }
}
