package ebb.core.execution;

import ebb.core.application.Connector;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Ends the sessions of an account and shuts its other ways in, and looks whether all are. */
final class ShutOff {
  /**
   * @param only the way to be shut, sessions staying as they are; null for all
   */
  static Outcome apply(Connector connector, String account, String only) {
    try {
      var open = new ArrayList<String>();
      var sessions = connector.sessions();
      if (only == null && sessions.isPresent()) {
        sessions.get().end(account);
        var left = sessions.get().open(account);
        if (left > 0) {
          open.add("%d sessions".formatted(left));
        }
      }
      var ways = connector.waysIn();
      if (ways.isPresent()) {
        for (var way : meant(ways.get(), account, only)) {
          ways.get().shut(account, way.id());
        }
        meant(ways.get(), account, only).forEach(way -> open.add(way.kind() + " " + way.what()));
      }
      return open.isEmpty()
          ? new Outcome.Applied(connector.find(account))
          : new Outcome.Met(stillOpen(String.join(", ", open)));
    } catch (Unreachable e) {
      return isGone(connector, account)
          ? new Outcome.AlreadyInPlace(Optional.empty())
          : new Outcome.RetryLater(null, e.problem());
    }
  }

  private static List<WaysIn.Way> meant(WaysIn ways, String account, String only)
      throws Unreachable {
    return ways.open(account).stream()
        .filter(way -> only == null || way.id().equals(only))
        .toList();
  }

  /** Nothing can be open of an account that was deleted behind our back. */
  private static boolean isGone(Connector connector, String account) {
    try {
      return connector.find(account).isEmpty();
    } catch (Unreachable _) {
      // What was asked first, and is told, did not get through either.
      return false;
    }
  }

  private static Problem stillOpen(String what) {
    return new Problem(
        "ways-in-open",
        "Still open after it was shut: %s.".formatted(what),
        "The application took the order, and shows otherwise.",
        "It is tried again; if that goes on, shut it in the application by hand.",
        null);
  }

  private ShutOff() {}
}
