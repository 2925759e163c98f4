package ebb.connectors.scim;

import ebb.core.application.Instruction;
import ebb.core.problem.Problem;

/** What can be amiss with one account or list of an application, in words. */
final class ScimProblems {
  private final String application;

  ScimProblems(String application) {
    this.application = application;
  }

  Problem nameTaken(Instruction.Create create) {
    return new Problem(
        "name-taken",
        "%s already has an account %s."
            .formatted(application, String.join("", create.values().get("userName"))),
        "It belongs to somebody else, or was made there by hand.",
        "Sync the application and link that account, or give the person another login.",
        null);
  }

  Problem takenUnseen(Instruction.Create create) {
    return new Problem(
        "name-taken-unseen",
        "%s says that %s is taken, and shows no such account."
            .formatted(application, String.join("", create.values().get("userName"))),
        "It may show it later, or may not let Ebb see it.",
        "It is looked up again; if that goes on, see there who has the name.",
        null);
  }

  Problem gone(String id) {
    return new Problem(
        "account-gone",
        "%s has no account %s any more.".formatted(application, id),
        "Somebody deleted it there.",
        "Sync the application; Ebb then proposes to create it anew.",
        null);
  }

  Problem stillThere(String id) {
    return new Problem(
        "account-still-there",
        "%s still shows account %s after deleting it.".formatted(application, id),
        "It may delete with a delay.",
        "It is looked up again; if it only switches accounts off, set delete=soft.",
        null);
  }

  Problem notSeenYet(String id) {
    return new Problem(
        "not-seen-yet",
        "%s took the change, and does not show it on account %s yet.".formatted(application, id),
        "It shows what was written only a while later.",
        "Nothing need be done: it is looked up again.",
        null);
  }

  Problem unansweredInBulk(String request) {
    return new Problem(
        "answer-incomplete",
        "%s answered to several changes, and left out %s.".formatted(application, request),
        "Whether it was carried out is not known.",
        "It is looked up and tried again; if that goes on, set together=no for this application.",
        null);
  }

  Problem noAttribute(String name) {
    return new Problem(
        "attribute-unknown",
        "%s has no attribute %s.".formatted(application, name),
        "Its schemas do not name it, or say that it cannot be written.",
        "Take it out of the rule, or see what the application calls it.",
        null);
  }

  Problem required(String name) {
    return new Problem(
        "attribute-missing",
        "%s makes no account without %s.".formatted(application, name),
        "Its schemas say that it is required, and nothing fills it.",
        "Fill it in the rule, or in the person's data.",
        null);
  }

  Problem noGroup(String group) {
    return new Problem(
        "group-unknown",
        "%s has no group %s.".formatted(application, group),
        "It was renamed or never made there.",
        "Make the group there, or correct the name, then retry the change.",
        null);
  }

  Problem noGroups() {
    return new Problem(
        "groups-not-offered",
        "%s has no groups.".formatted(application),
        "Its resource types do not name any.",
        "Take the groups out of the rule.",
        null);
  }

  Problem cutShort(int have, int total) {
    return new Problem(
        "list-cut-short",
        "%s said there are %d and sent none after %d.".formatted(application, total, have),
        "Going on would take the rest for gone.",
        "See whether it is well, then sync again.",
        null);
  }

  Problem repeats(int have) {
    return new Problem(
        "list-repeats",
        "%s sent a page again that it had sent before, after %d.".formatted(application, have),
        "Going on would never end, and leave the rest unread.",
        "See whether it is well, then sync again.",
        null);
  }
}
