package ebb.core.change;

import ebb.core.application.Level;
import ebb.core.compare.Difference;
import ebb.core.compare.Edit;
import java.util.SortedMap;
import java.util.TreeMap;

/** What a change does. */
public record Step(
    ChangeKind kind, SortedMap<String, Edit> edits, String group, String ground, boolean usable) {

  /** The step that removes a difference. */
  public static Step removing(Difference difference) {
    return switch (difference) {
      case Difference.Missing(var level, var ground, var edits) ->
          new Step(ChangeKind.CREATE, edits, null, ground, level == Level.ACTIVE);
      case Difference.Differing(var edits) ->
          new Step(ChangeKind.UPDATE, edits, null, edits.firstEntry().getValue().ground(), false);
      case Difference.OffLevel(var from, var to, var ground) ->
          of(to != Level.ACTIVE ? ChangeKind.SUSPEND : opening(from), ground);
      case Difference.NotInGroup(var group, var ground) -> group(ChangeKind.JOIN, group, ground);
      case Difference.InGroup(var group) -> group(ChangeKind.LEAVE, group, "no longer given");
      case Difference.WithoutSeat(var seat, var ground) ->
          group(ChangeKind.TAKE_SEAT, seat, ground);
      case Difference.InSeat(var seat) -> group(ChangeKind.FREE_SEAT, seat, "no longer given");
      case Difference.NotEntitled(_) -> of(ChangeKind.CLOSE, "no rule gives it any more");
    };
  }

  public static Step of(ChangeKind kind, String ground) {
    return new Step(kind, new TreeMap<>(), null, ground, false);
  }

  public static Step group(ChangeKind kind, String group, String ground) {
    return new Step(kind, new TreeMap<>(), group, ground, false);
  }

  /** What it brings somebody, as people say it before it happens. */
  public String words() {
    return switch (kind) {
      case CREATE -> usable ? "an account, open at once" : "an account is prepared";
      case UPDATE -> "set " + String.join(", ", edits.keySet());
      case OPEN -> "access opens";
      case SUSPEND -> "suspended";
      case RETURN -> "back in use";
      case JOIN -> "joins " + group;
      case LEAVE -> "leaves " + group;
      case TAKE_SEAT -> "takes seat " + group;
      case FREE_SEAT -> "frees seat " + group;
      case CLOSE -> "no longer entitled: suspended, its closing begins";
      case DELETE -> "the account is deleted";
      case STRIP -> "what is personal goes, the account stays suspended";
      case RESET -> "the password is made unusable";
      case SHUT -> "sessions end, other ways in are shut";
      case CATCH_UP -> "earlier items of " + group + " follow";
    };
  }

  private static ChangeKind opening(Level from) {
    return from == Level.PREPARED ? ChangeKind.OPEN : ChangeKind.RETURN;
  }
}
