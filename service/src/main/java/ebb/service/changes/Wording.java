package ebb.service.changes;

import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.compare.Edit;
import java.util.List;

/** Changes in words. */
final class Wording {
  static String of(Change change) {
    return switch (change.kind()) {
      case CREATE -> "create account" + name(change) + (change.usable() ? "" : ", not usable yet");
      case UPDATE -> "set " + String.join(", ", change.edits().keySet());
      case OPEN -> "open the prepared account";
      case SUSPEND -> "suspend";
      case RETURN -> "put back into use";
      case JOIN -> "join group " + change.group();
      case LEAVE -> "leave group " + change.group();
      case TAKE_SEAT -> "take seat " + change.group();
      case FREE_SEAT -> "free seat " + change.group();
      case CLOSE -> "suspend, and begin closing";
      case DELETE -> "delete";
      case STRIP -> "strip of what is personal";
      case RESET -> "reset the password";
      case SHUT -> "end sessions and shut other ways in";
      case CATCH_UP -> "have earlier items of group " + change.group() + " follow";
    };
  }

  static String text(List<String> values) {
    return String.join(", ", values);
  }

  private static String name(Change change) {
    Edit name = change.kind() == ChangeKind.CREATE ? change.edits().get("userName") : null;
    return name == null ? "" : " " + name.after();
  }

  private Wording() {}
}
