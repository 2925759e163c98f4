package ebb.core.problem;

/**
 * What every part of Ebb says when something is wrong. The same record is kept, answered over REST
 * and printed.
 *
 * @param code stable and documented; programs may match on it, never on the text
 * @param what what is wrong, with its values
 * @param why why that matters or how it came about
 * @param remedy what to do today, as an imperative
 * @param where null where the problem has no place
 */
public record Problem(String code, String what, String why, String remedy, Where where) {
  public Problem at(Where place) {
    return new Problem(code, what, why, remedy, place);
  }
}
