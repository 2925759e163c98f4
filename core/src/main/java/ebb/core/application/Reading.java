package ebb.core.application;

/**
 * How a reading of an application ended.
 *
 * @param mark where the next one may go on from; null if the application cannot say what changed
 * @param whole whether accounts it did not come past are gone
 * @param wholeOfGroups whether groups it did not come past are gone
 */
public record Reading(String mark, boolean whole, boolean wholeOfGroups) {
  /** All was read, and all will have to be read again. */
  public static final Reading OF_ALL = new Reading(null, true);

  /** One that came past as much of the groups as of the accounts. */
  public Reading(String mark, boolean whole) {
    this(mark, whole, whole);
  }
}
