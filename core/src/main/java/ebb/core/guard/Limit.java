package ebb.core.guard;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What the guard measures by: each limit, what it is unless set otherwise, and why. */
public enum Limit {
  SMALL(
      20,
      Unit.COUNT,
      "people a source must have named before shares say anything",
      "three of ten may well end together"),
  MISSING(
      0.20,
      Unit.SHARE,
      "of the people a source named, missing from a complete file",
      "a fifth of an organisation does not leave overnight; a file that was cut off looks just so"),
  CHANGED(
      0.50,
      Unit.SHARE,
      "of the people a source named, changed in one attribute",
      "half changed in one attribute is usually a column that moved"),
  RENAMED(
      0.05,
      Unit.SHARE,
      "of the people a source named, changed in their names",
      "one in twenty does not marry on one day; a wrong encoding renames everybody with an accent"),
  FEWER_ROWS(
      0.30,
      Unit.SHARE,
      "fewer rows than usual (the middle of the last five readings)",
      "an export that broke off, even where nobody is to be missed"),
  MORE_ROWS(
      1.00,
      Unit.SHARE,
      "more rows than usual",
      "twice the people overnight is a file joined with another, or loaded twice"),
  WITHOUT_KEY(
      0.02,
      Unit.SHARE,
      "of the rows without a key",
      "a slip or two is mended in place; more is a key column that was emptied"),
  DOUBLED_KEYS(
      0.02,
      Unit.SHARE,
      "of the rows with a key that stands there already",
      "a slip or two is mended in place; more is a file that was joined with itself"),
  STRANGERS(
      0.50,
      Unit.SHARE,
      "of the rows with a key never seen, where the source is known",
      "nearly everybody new is another organisation's file, or keys that changed for all"),
  FEW_ACCOUNTS(
      10,
      Unit.COUNT,
      "accounts of an application that one kind of cause may always take from in a day",
      "an ordinary day takes a few"),
  ACCOUNTS(
      0.10,
      Unit.SHARE,
      "of an application's accounts suspended, closed, deleted, renamed or taken out of a group in a day",
      "a tenth in a day is more than any ordinary day brings; small sets count together"),
  OWNED(
      10_000,
      Unit.COUNT,
      "things an account owned, for its deletion to need no second person",
      "so much is years of somebody's work; who looks a second time decided nothing about it");

  /** What a limit counts. */
  public enum Unit {
    COUNT,
    SHARE;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  private final double usual;
  private final Unit unit;
  private final String of;
  private final String why;

  Limit(double usual, Unit unit, String of, String why) {
    this.usual = usual;
    this.unit = unit;
    this.of = of;
    this.why = why;
  }

  /** What holds unless it is set otherwise; a share as a part of one. */
  public double usual() {
    return usual;
  }

  public Unit unit() {
    return unit;
  }

  /** What is counted, as it follows the number. */
  public String of() {
    return of;
  }

  public String why() {
    return why;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  public static Optional<Limit> called(String word) {
    return Arrays.stream(values()).filter(limit -> limit.word().equals(word)).findFirst();
  }

  /** The number in words. */
  public String words(double value) {
    return unit == Unit.SHARE ? "%s%%".formatted(number(value * 100)) : number(value);
  }

  private static String number(double value) {
    return value == Math.rint(value) ? "%,d".formatted((long) value) : "%.1f".formatted(value);
  }
}
