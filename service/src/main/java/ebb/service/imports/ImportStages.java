package ebb.service.imports;

import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.execution.Result;
import ebb.core.imports.Import;
import ebb.core.imports.Stage;
import ebb.service.changes.Aftermath;
import ebb.store.changes.Changes;
import ebb.store.imports.Imports;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Moves an import on when its change set is released, and when all of it was seen. */
@Component
final class ImportStages implements Aftermath {
  private static final Set<ChangeState> UNDER_WAY =
      Set.of(ChangeState.QUEUED, ChangeState.CLAIMED, ChangeState.UNSURE);

  private final Imports imports;
  private final Changes changes;
  private final Uploads uploads;

  ImportStages(Imports imports, Changes changes, Uploads uploads) {
    this.uploads = uploads;
    this.imports = imports;
    this.changes = changes;
  }

  @Override
  public void released(StatelessSession session, ChangeSet set) {
    imports
        .lockOfChangeSet(session, set.id())
        .ifPresent(
            made -> {
              put(session, made, isUnderWay(session, set.id()) ? Stage.RELEASED : Stage.SEEN);
              uploads.drop(made.id());
            });
  }

  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    results.stream()
        .map(result -> result.change().changeSet())
        .distinct()
        .flatMap(set -> imports.lockOfChangeSet(session, set).stream())
        .filter(made -> made.stage() == Stage.RELEASED)
        .filter(made -> !isUnderWay(session, made.changeSet()))
        .forEach(made -> put(session, made, Stage.SEEN));
  }

  private boolean isUnderWay(StatelessSession session, long set) {
    return changes.counts(session, set).stream()
        .anyMatch(count -> UNDER_WAY.contains(count.state()));
  }

  private void put(StatelessSession session, Import made, Stage stage) {
    imports.put(session, made.at(stage));
  }
}
