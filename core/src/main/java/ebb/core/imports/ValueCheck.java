package ebb.core.imports;

import ebb.core.person.Attribute;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** Whether a text can be the value of an attribute, from a file or from a hand. */
public final class ValueCheck {
  /** One @, no spaces, a dot in the domain: the rest only the mail server knows. */
  private static final Pattern EMAIL = Pattern.compile("[^\\s@]+@[^\\s@]+\\.[^\\s@.]+");

  private static final Pattern MANGLED = Pattern.compile("\\d([.,]\\d+)?[eE]\\+\\d{2,}");

  /** No other way to write a date begins with four digits and a hyphen. */
  private static final Pattern ISO_DATE = Pattern.compile("\\d{4}-\\d\\d-\\d\\d");

  private static final Pattern PHONE = Pattern.compile("\\+?[0-9][0-9 ()/.-]{4,24}");
  private static final Pattern DECEPTIVE =
      Pattern.compile("[\\p{Cc}\\u200B\\u2060\\uFEFF\\u202A-\\u202E\\u2066-\\u2069\\uFFFD]");

  private static final Pattern LINE_BREAK =
      Pattern.compile("[\\t\\n\\r\\x0B\\f\\u0085\\u2028\\u2029]");
  private static final Pattern FORMULA = Pattern.compile("=\\s*\".*\"");
  private static final int LONGEST_ADDRESS = 254;
  private static final int LONGEST_LOCAL_PART = 64;

  /** Asked for, they are copied each time. */
  private static final Set<String> ZONES = Set.copyOf(ZoneId.getAvailableZoneIds());

  /** What became of a text. */
  public sealed interface Checked {}

  /**
   * @param value as it is kept: dates as ISO 8601
   */
  public record Good(String value) implements Checked {}

  public record Bad(Problem problem) implements Checked {}

  /** What a workbook puts in a cell it could not compute. */
  private static final Pattern CELL_ERROR =
      Pattern.compile("#(REF!|N/A|VALUE!|DIV/0!|NAME\\?|NUM!|NULL!)");

  private static final Pattern NUMBER = Pattern.compile("-?\\d{1,18}([.,]\\d{1,9})?");
  private static final Set<String> YES = Set.of("yes", "y", "true", "1", "ja", "oui", "si", "x");
  private static final Set<String> NO = Set.of("no", "n", "false", "0", "nein", "nei", "non");
  private static final String NOT_REACHED = "Nothing would ever arrive there.";
  private static final String NOT_A_NUMBER = "It could not be compared with other numbers.";
  private static final String NOT_A_ZONE = "Days would begin and end at the wrong hour.";
  private static final int LONGEST = 1_000;
  private static final LocalDate EXAMPLE = LocalDate.of(2027, 3, 31);

  private final Catalogue catalogue;
  private final DateTimeFormatter dates;

  /**
   * @param dateFormat a pattern as in "dd.MM.uuuu"; dates as ISO 8601 writes them are always taken
   */
  public ValueCheck(Catalogue catalogue, String dateFormat) {
    this.catalogue = catalogue;
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
    if (LINE_BREAK.matcher(text).find()) {
      return new Bad(
          new Problem(
              "value-line-break",
              "%s holds a line break or a tab.".formatted(where.column()),
              "A value is one line, wherever it goes.",
              "Write it in one line.",
              where));
    }
    if (FORMULA.matcher(text).matches()) {
      return new Bad(
          new Problem(
              "value-from-spreadsheet",
              "%s is written as a formula: %s.".formatted(where.column(), text),
              "A spreadsheet would show what is in it; here the signs round it would stay.",
              "Write only what is between the quotes.",
              where));
    }
    if (isDeceptive(text)) {
      return new Bad(
          new Problem(
              "value-deceptive",
              "%s holds characters that cannot be seen.".formatted(where.column()),
              "Such a value can pass for another one, or was read in the wrong encoding.",
              "Type it again; save the file as UTF-8.",
              where));
    }
    if (CELL_ERROR.matcher(text).matches()) {
      return new Bad(
          new Problem(
              "cell-error",
              "%s holds %s.".formatted(where.column(), text),
              "The workbook could not compute that cell; it is no value.",
              "Mend the formula there, or type the value.",
              where));
    }
    if (text.length() > LONGEST) {
      return new Bad(
          new Problem(
              "value-too-long",
              "%s has %,d characters.".formatted(where.column(), text.length()),
              "Up to %,d are kept; no application takes more.".formatted(LONGEST),
              "Shorten it.",
              where));
    }
    var found = catalogue.find(attribute).orElseThrow();
    return switch (found.type()) {
      case TEXT, PERSON -> new Good(text);
      case NUMBER -> matching(NUMBER, text.replace(',', '.'), "number", NOT_A_NUMBER, where);
      case YES_NO -> yesOrNo(text, where);
      case CHOICE -> choice(found, text, where);
      case DATE -> date(text, where);
      case EMAIL -> address(text, where);
      case PHONE -> matching(PHONE, text, "telephone number", NOT_REACHED, where);
      case ZONE ->
          ZONES.contains(text)
              ? new Good(text)
              : new Bad(badFormat(text, "time zone", NOT_A_ZONE, where));
    };
  }

  private static Checked address(String text, Where where) {
    return text.length() > LONGEST_ADDRESS || text.indexOf('@') > LONGEST_LOCAL_PART
        ? new Bad(
            new Problem(
                "mail-address-too-long",
                "%s has %d characters, %d of them before the @."
                    .formatted(where.column(), text.length(), text.indexOf('@')),
                "Mail servers take %d, and %d before the @ (RFC 5321, 4.5.3.1)."
                    .formatted(LONGEST_ADDRESS, LONGEST_LOCAL_PART),
                "Correct it, or leave it empty.",
                where))
        : matching(EMAIL, text, "mail address", NOT_REACHED, where);
  }

  /** Whether a text holds characters that cannot be seen, or turn the direction of writing. */
  static boolean isDeceptive(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (text.charAt(i) < ' ' || text.charAt(i) > '~') {
        return DECEPTIVE.matcher(text).find();
      }
    }
    return false;
  }

  /** Whether a spreadsheet rounded a long number, as in 1.23E+10. */
  static boolean isMangledNumber(String text) {
    return MANGLED.matcher(text).matches();
  }

  /** Yes or no in one of several languages, as true or false. */
  static Checked yesOrNo(String text, Where where) {
    var folded = text.toLowerCase(Locale.ROOT);
    return YES.contains(folded)
        ? new Good("true")
        : NO.contains(folded)
            ? new Good("false")
            : new Bad(
                new Problem(
                    "yes-or-no-invalid",
                    "%s is neither yes nor no: %s.".formatted(where.column(), text),
                    "It cannot be guessed which is meant.",
                    "Write yes or no.",
                    where));
  }

  private static Checked choice(Attribute attribute, String text, Where where) {
    return attribute
        .choice(text)
        .<Checked>map(Good::new)
        .orElseGet(
            () ->
                new Bad(
                    new Problem(
                        "choice-unknown",
                        "%s is no choice for %s.".formatted(text, where.column()),
                        "Only what is on its list is taken.",
                        "Use one of: %s.".formatted(String.join(", ", attribute.choices())),
                        where)));
  }

  private Checked date(String text, Where where) {
    if (ISO_DATE.matcher(text).matches()) {
      return date(text, DateTimeFormatter.ISO_LOCAL_DATE, where);
    }
    return date(text, dates, where);
  }

  private Checked date(String text, DateTimeFormatter dates, Where where) {
    try {
      return new Good(LocalDate.parse(text, dates).toString());
    } catch (DateTimeParseException _) {
      return new Bad(
          new Problem(
              "date-invalid",
              "%s is no date: %s.".formatted(where.column(), text),
              "Dates are written as in %s here, and the day must exist."
                  .formatted(EXAMPLE.format(this.dates)),
              "Correct the date.",
              where));
    }
  }

  private static Checked matching(
      Pattern pattern, String text, String what, String why, Where where) {
    return pattern.matcher(text).matches()
        ? new Good(text)
        : new Bad(badFormat(text, what, why, where));
  }

  private static Problem badFormat(String text, String what, String why, Where where) {
    return new Problem(
        what.replace(' ', '-') + "-invalid",
        "%s is no %s: %s.".formatted(where.column(), what, text),
        why,
        "Correct it, or leave it empty.",
        where);
  }
}
