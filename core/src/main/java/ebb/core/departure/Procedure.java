package ebb.core.departure;

/**
 * How a departure goes.
 *
 * @param handOverDays days from the last day until what the account owns is handed over
 * @param waitDays days from the last day until the account may be deleted
 */
public record Procedure(int handOverDays, int waitDays) {
  /**
   * Three days, as a mistake in a file is noticed within a day or two and what was handed over does
   * not come back by itself; a month, long enough for a manager back from holiday to miss
   * something.
   */
  public static final Procedure STANDARD = new Procedure(3, 30);
}
