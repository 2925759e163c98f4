package ebb.service.changes;

import ebb.core.change.Change;
import ebb.core.change.ChangeSet;
import ebb.core.execution.Result;
import ebb.service.evaluation.Evaluated;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import org.hibernate.StatelessSession;

/** What other features do when changes are released and carried out, in the same transaction. */
public interface Aftermath {
  /** Inputs of a person were taken in, and these of their changes go on. */
  default void released(
      StatelessSession session, Evaluated person, List<Change> changes, Instant at) {}

  /** A set was released whole. */
  default void released(StatelessSession session, ChangeSet set) {}

  /** Changes were carried out, or not. */
  default void recorded(StatelessSession session, List<Result> results, Instant at) {}

  /** Carrying out a suspension, the application took the account out of groups by itself. */
  default void droppedFrom(
      StatelessSession session, Change suspension, SortedSet<String> groups, Instant at) {}

  /** Why an account must not end after all; empty if this feature has nothing against it. */
  default Optional<String> against(StatelessSession session, Change ending) {
    return Optional.empty();
  }
}
