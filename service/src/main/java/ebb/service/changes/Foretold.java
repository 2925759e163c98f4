package ebb.service.changes;

import ebb.core.change.Needs;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;

/** What applications will refuse of a set, told before it is sent: nothing of it is stopped. */
final class Foretold {
  static List<Problem> of(Needs needs) {
    var all = new ArrayList<Problem>();
    needs
        .lacking()
        .forEach(
            (application, names) ->
                names.forEach((name, accounts) -> all.add(lacking(application, name, accounts))));
    needs
        .forbidden()
        .forEach(
            (application, names) ->
                names.forEach((name, changes) -> all.add(forbidden(application, name, changes))));
    return all;
  }

  private static Problem forbidden(String application, String name, long changes) {
    return new Problem(
        "attribute-denied",
        "%s will refuse %,d changes of %s.".formatted(application, changes, name),
        "Ebb may not write that there, as was found when it was tried last.",
        "Give it the right to, or take the attribute out of the rule. All else of the set goes as shown.",
        null);
  }

  private static Problem lacking(String application, String name, long accounts) {
    return new Problem(
        "attribute-missing",
        "%s will refuse %,d accounts: they would be without %s."
            .formatted(application, accounts, name),
        "It demands that of every account, and neither a rule nor what is known of these people fills it.",
        "Fill it by a rule, or in the people themselves. All else of the set goes as shown.",
        null);
  }

  private Foretold() {}
}
