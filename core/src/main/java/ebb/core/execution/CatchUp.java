package ebb.core.execution;

import ebb.core.application.Connector;
import ebb.core.application.EarlierItems;
import ebb.core.application.EarlierItems.Stray;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Has the earlier items of a group say of an account what the group says, and looks if they do. */
final class CatchUp {
  private static final int SHOWN = 5;

  /** Whoever has more is not done, and goes on when it is tried again. */
  private static final int AT_ONCE = 5_000;

  static Outcome apply(Connector connector, String account, String group) {
    try {
      var items = connector.earlierItems();
      if (items.isEmpty()) {
        return new Outcome.Refused(notKnown());
      }
      for (var stray : strays(items.get(), account, group)) {
        items.get().name(group, stray.item().id(), account, !stray.isNamed());
      }
      var left = strays(items.get(), account, group);
      return left.isEmpty()
          ? new Outcome.Applied(connector.find(account))
          : new Outcome.Met(stillAstray(left));
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  private static List<Stray> strays(EarlierItems items, String account, String group)
      throws Unreachable {
    return items.strays(group, Optional.of(account), AT_ONCE);
  }

  private static Problem notKnown() {
    return new Problem(
        "earlier-items-unknown",
        "The application cannot say which items were made for a group.",
        "It has no part for them, or not any more.",
        "Look there by hand.",
        null);
  }

  private static Problem stillAstray(List<Stray> left) {
    return new Problem(
        "earlier-items-astray",
        "%d items do not follow after they were told to: %s."
            .formatted(
                left.size(),
                left.stream()
                    .limit(SHOWN)
                    .map(stray -> stray.item().kind() + " " + stray.item().name())
                    .collect(Collectors.joining(", "))),
        "The application took the order, and shows otherwise.",
        "It is tried again; if that goes on, put them right in the application by hand.",
        null);
  }

  private CatchUp() {}
}
