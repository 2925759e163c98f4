package ebb.store.changes;

import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Edits;
import ebb.store.Json;
import java.util.List;
import tools.jackson.core.type.TypeReference;

/** Between change sets, their inputs and changes, and their rows. */
final class ChangeMapper {
  private static final String REKEY = "rekey";
  private static final String MOVE_KEY = "move-key";
  private static final String LINK = "link";
  private static final String UNLINK = "unlink";
  private static final String LOGIN = "login";
  static final String ASSERT = "assert";

  /** What says whose keys, accounts and logins are: looked for when its set is taken back. */
  static final List<String> OF_IDENTITY = List.of(REKEY, MOVE_KEY, LINK, UNLINK, LOGIN);

  private static final TypeReference<List<Problem>> PROBLEMS = new TypeReference<>() {};

  static ChangeSet set(ChangeSetEntity row) {
    return new ChangeSet(
        row.id,
        Cause.valueOf(row.cause),
        row.title,
        SetState.valueOf(row.state),
        row.takesBack,
        row.takenBackBy,
        Json.read(row.stops, PROBLEMS),
        Json.read(row.remarks, PROBLEMS),
        row.createdBy,
        row.createdAt,
        row.releasedBy,
        row.releasedAt,
        row.version);
  }

  static ChangeSetEntity row(ChangeSet set) {
    var row = new ChangeSetEntity();
    row.id = set.id();
    row.cause = set.cause().name();
    row.title = set.title();
    row.state = set.state().name();
    row.takesBack = set.takesBack();
    row.takenBackBy = set.takenBackBy();
    row.stops = Json.write(set.stops());
    row.remarks = Json.write(set.remarks());
    row.createdBy = set.createdBy();
    row.createdAt = set.createdAt();
    row.releasedBy = set.releasedBy();
    row.releasedAt = set.releasedAt();
    row.version = set.version();
    return row;
  }

  static Input input(InputEntity row) {
    return input(row.kind, row.body);
  }

  static Input input(String kind, String body) {
    return switch (kind) {
      case ASSERT -> Json.read(body, Input.Assert.class);
      case MOVE_KEY -> Json.read(body, Input.MoveKey.class);
      case REKEY -> Json.read(body, Input.Rekey.class);
      case LINK -> Json.read(body, Input.Link.class);
      case UNLINK -> Json.read(body, Input.Unlink.class);
      case LOGIN -> Json.read(body, Input.Login.class);
      case "give" -> Json.read(body, Input.Give.class);
      case "end" -> Json.read(body, Input.EndGrant.class);
      case "suspend" -> Json.read(body, Input.Suspend.class);
      case "end-suspension" -> Json.read(body, Input.EndSuspension.class);
      default -> throw new IllegalStateException("Unknown kind of input " + kind);
    };
  }

  static InputEntity row(long id, long changeSet, Input input) {
    var row = new InputEntity();
    row.id = id;
    row.changeSetId = changeSet;
    row.personId = input.person().value();
    row.kind =
        switch (input) {
          case Input.Assert _ -> ASSERT;
          case Input.Rekey _ -> REKEY;
          case Input.MoveKey _ -> MOVE_KEY;
          case Input.Link _ -> LINK;
          case Input.Unlink _ -> UNLINK;
          case Input.Login _ -> LOGIN;
          case Input.Give _ -> "give";
          case Input.EndGrant _ -> "end";
          case Input.Suspend _ -> "suspend";
          case Input.EndSuspension _ -> "end-suspension";
        };
    row.body = Json.write(input);
    return row;
  }

  static Change change(ChangeEntity row) {
    return new Change(
        row.id,
        row.changeSetId,
        new PersonId(row.personId),
        row.application,
        row.accountId,
        ChangeKind.valueOf(row.kind),
        Edits.read(row.edits),
        row.group,
        row.ground,
        row.usable,
        ChangeState.valueOf(row.state),
        row.due,
        row.attempts,
        Json.read(row.problem, Problem.class),
        row.askedAt,
        row.seenAt);
  }

  static ChangeEntity row(Change change) {
    var row = new ChangeEntity();
    row.id = change.id();
    row.changeSetId = change.changeSet();
    row.personId = change.person().value();
    row.application = change.application();
    row.edits = Edits.write(change.edits());
    row.group = change.group();
    row.ground = change.ground();
    row.usable = change.usable();
    row.renames = change.renames();
    row.openNeeds = change.isUrgent() ? ChangeQueue.URGENT : 0;
    row.kind = change.kind().name();
    fill(row, change);
    return row;
  }

  /** The columns that change while a change is carried out. */
  static void fill(ChangeEntity row, Change change) {
    row.accountId = change.account();
    row.state = change.state().name();
    row.due = change.due();
    row.attempts = change.attempts();
    row.problem = Json.write(change.problem());
    row.askedAt = change.askedAt();
    row.seenAt = change.seenAt();
    row.version++;
  }

  private ChangeMapper() {}
}
