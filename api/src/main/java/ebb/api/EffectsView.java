package ebb.api;

import java.util.List;

/**
 * What people gain and lose by a change set, and what the accounts own that are lost.
 *
 * @param losing the first of the accounts that are to be closed
 * @param staying the first of the groups for which something was made earlier that does not follow
 */
public record EffectsView(
    List<EffectView> effects, List<LosingView> losing, List<StayingView> staying) {
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

  /**
   * @param items made for those who were in the group then; null where the application did not say
   * @param more whether there are more than these
   * @param some of them, for a person to recognise
   */
  public record StayingView(
      String application, String group, Integer items, boolean more, List<String> some) {}

  public record OwnedView(String kind, long items, long bytes) {}
}
