package ebb.core.departure;

import java.util.Collection;

/**
 * How departures of a kind of people go.
 *
 * @param handOverDays days from the last day until what the account owns is handed over
 * @param waitDays days from the last day until the account may be deleted
 * @param asksReturn whether somebody has to say that they are not coming back before anything is
 *     removed
 * @param reply what answers by itself whoever writes to them; null for nothing
 * @param forgetDays days from the end of a departure until what is known of the person is
 *     forgotten; null for never
 */
public record Procedure(
    int handOverDays, int waitDays, boolean asksReturn, ReplyText reply, Integer forgetDays) {
  /** Ten years: what waits longer is kept, not waiting. */
  public static final int MOST_DAYS = 3_650;

  /**
   * Three days, as a mistake in a file is noticed within a day or two and what was handed over does
   * not come back by itself; a month, long enough for a manager back from holiday to miss
   * something. A last day in the source is its word that they are not coming back. For how long
   * people are remembered is the organisation's to say.
   */
  public static final Procedure STANDARD = new Procedure(3, 30, false, null, null);

  /**
   * For whom nobody knows which of them holds: the longest.
   *
   * @return days until people are forgotten by all of them; null if they never are by one
   */
  public static Integer longestRemembered(Collection<Procedure> all) {
    var days = all.stream().map(Procedure::forgetDays).toList();
    return days.contains(null) ? null : days.stream().max(Integer::compare).orElse(null);
  }
}
