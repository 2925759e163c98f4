package ebb.service.changes;

import ebb.core.change.Change;
import ebb.core.change.ChangeSet;
import ebb.core.execution.Result;
import ebb.service.evaluation.Evaluated;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
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

  /** Why a deletion must not go on after all; empty if this feature has nothing against it. */
  default Optional<String> against(StatelessSession session, Change deletion) {
    return Optional.empty();
  }
}
