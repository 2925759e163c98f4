package ebb.core.compare;

import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import java.util.SortedMap;

/**
 * An account of a person, as it was last seen.
 *
 * @param grounds group or {@link #seat seat} to the ground on which Ebb put the account there;
 *     those that were found in the application are not in it, and are left alone
 * @param closing whether its closing is under way already
 * @param leftAlone whether it may differ; whether it can be used is kept as it should be all the
 *     same
 * @param stripped whether what is personal was taken out of it: nothing is put back while it is off
 */
public record HeldAccount(
    long id,
    String application,
    Level level,
    ObservedAccount observed,
    SortedMap<String, String> grounds,
    boolean closing,
    boolean leftAlone,
    boolean stripped) {
  /** What the ground of a seat is kept under: groups are kept under their names. */
  public static String seat(String name) {
    return "seat:" + name;
  }
}
