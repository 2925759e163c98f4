package ebb.core.departure;

/**
 * What becomes of an account at the end of a departure, as is said of its application, and how
 * removing goes there.
 *
 * @param keeps whether it stays suspended for good
 * @param restoreDays for how many days it can still be restored once all its gates are open; the
 *     same everywhere, whatever the application itself can bring back. 0 for none
 * @param alone how many things an account may have owned for its deletion to need no second person
 * @param refused how many deletions in a row, the last ones of a day, the application refused
 */
public record Removal(boolean keeps, int restoreDays, long alone, int refused) {
  public static final Removal AT_ONCE = new Removal(false, 0, Long.MAX_VALUE, 0);

  /** After so many refusals in a row the same would become of the others: they wait. */
  public static final int MOST_REFUSED = 3;
}
