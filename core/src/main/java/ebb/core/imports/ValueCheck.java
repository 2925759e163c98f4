package ebb.core.imports;

import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.regex.Pattern;

/** Whether a text can be the value of an attribute, from a file or from a hand. */
public final class ValueCheck {
  /** One @, no spaces, a dot in the domain: the rest only the mail server knows. */
  private static final Pattern EMAIL = Pattern.compile("[^\\s@]+@[^\\s@]+\\.[^\\s@.]+");

  private static final Pattern PHONE = Pattern.compile("\\+?[0-9][0-9 ()/.-]{4,24}");
  private static final Pattern DECEPTIVE =
      Pattern.compile("[\\p{Cc}\\u202A-\\u202E\\u2066-\\u2069\\uFFFD]");

  /** What became of a text. */
  public sealed interface Checked {}

  /**
   * @param value as it is kept: dates as ISO 8601
   */
  public record Good(String value) implements Checked {}

  public record Bad(Problem problem) implements Checked {}

  private final String dateFormat;
  private final DateTimeFormatter dates;

  /**
   * @param dateFormat a pattern as in "uuuu-MM-dd"
   */
  public ValueCheck(String dateFormat) {
    this.dateFormat = dateFormat;
    this.dates = DateTimeFormatter.ofPattern(dateFormat).withResolverStyle(ResolverStyle.STRICT);
  }

  /**
   * Checks one value.
   *
   * @param attribute one that is known
   * @param text stripped and not empty
   * @param where its column names the value in the problem
   */
  public Checked of(String attribute, String text, Where where) {
    if (DECEPTIVE.matcher(text).find()) {
      return new Bad(
          new Problem(
              "value-deceptive",
              "%s holds characters that cannot be seen.".formatted(where.column()),
              "Such a value can pass for another one, or was read in the wrong encoding.",
              "Type it again; save the file as UTF-8.",
              where));
    }
    return switch (Attributes.type(attribute)) {
      case TEXT, PERSON -> new Good(text);
      case DATE -> date(text, where);
      case EMAIL -> matching(EMAIL, text, "mail address", where);
      case PHONE -> matching(PHONE, text, "telephone number", where);
      case ZONE ->
          ZoneId.getAvailableZoneIds().contains(text)
              ? new Good(text)
              : new Bad(badFormat(text, "time zone", where));
    };
  }

  private Checked date(String text, Where where) {
    try {
      return new Good(LocalDate.parse(text, dates).toString());
    } catch (DateTimeParseException _) {
      return new Bad(
          new Problem(
              "date-invalid",
              "%s is no date: %s.".formatted(where.column(), text),
              "Dates are written %s here, and the day must exist.".formatted(dateFormat),
              "Correct the date.",
              where));
    }
  }

  private static Checked matching(Pattern pattern, String text, String what, Where where) {
    return pattern.matcher(text).matches() ? new Good(text) : new Bad(badFormat(text, what, where));
  }

  private static Problem badFormat(String text, String what, Where where) {
    return new Problem(
        what.replace(' ', '-') + "-invalid",
        "%s is no %s: %s.".formatted(where.column(), what, text),
        "Nothing would ever arrive there.",
        "Correct it, or leave it empty.",
        where);
  }
}
