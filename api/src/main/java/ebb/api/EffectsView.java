package ebb.api;

import java.util.List;

/**
 * What people gain and lose by a change set, and what the accounts own that are lost.
 *
 * @param losing the first of the accounts that are to be closed
 */
public record EffectsView(List<EffectView> effects, List<LosingView> losing) {
  /**
   * @param what "account", "group" or "seat"
   * @param name of the group or seat; null for accounts
   * @param gain how many people get it
   * @param loss how many lose it
   */
  public record EffectView(String application, String what, String name, long gain, long loss) {}

  /**
   * @param owned by kind; null where the application cannot say, which keeps a gate of the closing
   *     shut
   */
  public record LosingView(
      long person, String displayName, String application, List<OwnedView> owned) {}

  public record OwnedView(String kind, long items, long bytes) {}
}
