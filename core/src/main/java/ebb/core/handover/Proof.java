package ebb.core.handover;

import ebb.core.application.Ownership.Item;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Whether all that was owned arrived at the recipient unaltered, and nothing was left behind. */
public final class Proof {
  /**
   * @param owned what the account owned when stock was taken, and could be handed over
   * @param left what it owns now
   * @param arrived what the recipient owns now, by id
   * @return empty if it is proven
   */
  public static List<Problem> check(
      List<Item> owned, List<Item> left, Map<String, Item> arrived, String recipient) {
    var open = new ArrayList<Problem>();
    var stillThere = left.stream().filter(Item::transferable).toList();
    if (!stillThere.isEmpty()) {
      open.add(
          problem(
              "handover-left-behind",
              "%d of %d items still belong to the departing account, the first being %s."
                  .formatted(stillThere.size(), owned.size(), stillThere.getFirst().name())));
    }
    var lost =
        owned.stream()
            .filter(item -> !arrived.containsKey(item.id()))
            .filter(item -> stillThere.stream().noneMatch(there -> there.id().equals(item.id())))
            .toList();
    if (!lost.isEmpty()) {
      open.add(
          problem(
              "handover-not-arrived",
              "%d of %d items did not arrive at %s, the first being %s."
                  .formatted(lost.size(), owned.size(), recipient, lost.getFirst().name())));
    }
    var altered =
        owned.stream()
            .filter(item -> arrived.containsKey(item.id()))
            .filter(item -> !arrived.get(item.id()).sha256().equals(item.sha256()))
            .toList();
    if (!altered.isEmpty()) {
      open.add(
          problem(
              "handover-altered",
              "%d of %d items have another checksum at %s, the first being %s."
                  .formatted(altered.size(), owned.size(), recipient, altered.getFirst().name())));
    }
    return open;
  }

  private static Problem problem(String code, String what) {
    return new Problem(
        code,
        what,
        "Removal stays shut until everything is proven to have arrived.",
        "See what the application says of the transfer, then retry the handover.",
        null);
  }

  private Proof() {}
}
