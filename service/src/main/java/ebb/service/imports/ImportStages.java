package ebb.service.imports;

import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.execution.Result;
import ebb.core.imports.Import;
import ebb.core.imports.Stage;
import ebb.service.changes.Aftermath;
import ebb.service.notices.OperatorNotices;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.imports.Imports;
import java.time.Duration;
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
  private final ChangeSets changeSets;
  private final Uploads uploads;
  private final OperatorNotices operatorNotices;

  ImportStages(
      Imports imports,
      Changes changes,
      ChangeSets changeSets,
      Uploads uploads,
      OperatorNotices operatorNotices) {
    this.operatorNotices = operatorNotices;
    this.changeSets = changeSets;
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
        .forEach(
            made -> {
              put(session, made, Stage.SEEN);
              tell(session, made, at);
            });
  }

  private void tell(StatelessSession session, Import made, Instant at) {
    changeSets
        .get(session, made.changeSet())
        .filter(set -> set.releasedAt() != null)
        .ifPresent(
            set ->
                operatorNotices.done(
                    session,
                    set.releasedBy(),
                    Duration.between(set.releasedAt(), at),
                    "%s is carried out".formatted(made.file()),
                    "/now/imports/" + made.id(),
                    at));
  }

  private boolean isUnderWay(StatelessSession session, long set) {
    return changes.isAny(session, set, UNDER_WAY);
  }

  private void put(StatelessSession session, Import made, Stage stage) {
    imports.put(session, made.at(stage));
  }
}
