package ebb.service.imports;

import ebb.api.ErrandView;
import ebb.core.change.ChangeSet;
import ebb.core.change.SetState;
import ebb.core.imports.Import;
import ebb.core.imports.Stage;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.changes.Releases;
import ebb.service.errand.Errands;
import ebb.store.changes.ChangeSets;
import ebb.store.imports.Imports;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Files brought in with rows set aside or missing people that nobody has decided about. */
@Component
final class ImportErrands implements Errands {
  private final Imports imports;
  private final ChangeSets changeSets;

  ImportErrands(Imports imports, ChangeSets changeSets) {
    this.imports = imports;
    this.changeSets = changeSets;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return caller.may(Act.SEE_IMPORTS)
        ? imports.list(session, null, MOST).items().stream()
            .flatMap(made -> errand(session, made).stream())
            .toList()
        : List.of();
  }

  private Optional<ErrandView> errand(StatelessSession session, Import made) {
    if (!made.questions().isEmpty()) {
      var first = made.questions().getFirst();
      return Optional.of(
          view(made, WAITING, "Say how %s is read".formatted(made.file()), first.what(), "Look"));
    }
    if (made.stage() == Stage.READ || made.stage() == Stage.CHECKED) {
      return Optional.of(
          view(made, RUNNING, "Reading " + made.file(), "It is checked row by row.", "Follow"));
    }
    if (!isOpen(session, made)) {
      return Optional.empty();
    }
    var rows = imports.countUnanswered(session, made.id());
    var missing = imports.countUndecided(session, made.id());
    return rows + missing == 0
        ? Optional.empty()
        : Optional.of(
            view(
                made,
                WAITING,
                "Decide about " + made.file(),
                words(made, rows, missing),
                "Decide"));
  }

  /** Whether anything can be decided about it: the last that a feed brought stays open. */
  private boolean isOpen(StatelessSession session, Import made) {
    if (made.effects() == null) {
      return false;
    }
    var state = changeSets.get(session, made.changeSet()).map(ChangeSet::state).orElse(null);
    return state == SetState.SHOWN
        || state == SetState.RELEASED
            && made.createdBy().equals(Releases.BY_ITSELF)
            && imports.released(session, made.source(), 1).stream()
                .allMatch(last -> last.id() == made.id());
  }

  private static ErrandView view(
      Import made, int urgency, String what, String detail, String action) {
    return new ErrandView(
        urgency, "import", Long.toString(made.id()), what, detail, action, made.createdAt());
  }

  private static String words(Import made, long rows, long missing) {
    var aside = rows == 1 ? "1 row is set aside" : "%,d rows are set aside".formatted(rows);
    var gone =
        (missing == 1 ? "1 person is " : "%,d people are ".formatted(missing))
            + (made.terms().complete() ? "not in the file" : "said to have gone");
    return (missing == 0 ? aside : rows == 0 ? gone : aside + "; " + gone) + ".";
  }
}
