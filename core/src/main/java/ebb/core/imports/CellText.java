package ebb.core.imports;

import java.text.Normalizer;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What stands in a cell, without what programs leave round it. */
final class CellText {
  private static final char NO_BREAK = '\u00A0';
  private static final char NARROW_NO_BREAK = '\u202F';
  private static final char FIGURE_SPACE = '\u2007';

  /** As exports write it who fear for leading zeros. */
  private static final Pattern FORMULA = Pattern.compile("=\\s*\"(.*)\"");

  private static final Pattern THOUSANDS = Pattern.compile("[1-9]\\d{0,2}(,\\d{3})+");
  private static final Pattern DECIMAL = Pattern.compile("(\\d+)[.,]0+");

  /** Without blanks at its ends; those that do not break are blanks, too. */
  static String stripped(String text) {
    int from = 0;
    int to = text.length();
    while (from < to && isBlank(text.charAt(from))) {
      from++;
    }
    while (to > from && isBlank(text.charAt(to - 1))) {
      to--;
    }
    return text.substring(from, to);
  }

  private static boolean isBlank(char sign) {
    return Character.isWhitespace(sign)
        || sign == NO_BREAK
        || sign == NARROW_NO_BREAK
        || sign == FIGURE_SPACE;
  }

  /** As keys are compared: one spelling for each letter, and one kind of blank. */
  static String key(String text) {
    var stripped = stripped(text);
    for (int i = 0; i < stripped.length(); i++) {
      if (stripped.charAt(i) > '~') {
        return Normalizer.normalize(stripped, Normalizer.Form.NFC)
            .replace(NO_BREAK, ' ')
            .replace(NARROW_NO_BREAK, ' ')
            .replace(FIGURE_SPACE, ' ');
      }
    }
    return stripped;
  }

  /**
   * What a text was before a spreadsheet, or the guard against one, wrote it so; empty if as is.
   */
  static Optional<String> beforeSpreadsheet(String text) {
    var formula = FORMULA.matcher(text);
    if (formula.matches()) {
      return Optional.of(formula.group(1));
    }
    if (text.length() > 1 && text.charAt(0) == '\'') {
      return Optional.of(text.substring(1));
    }
    if (THOUSANDS.matcher(text).matches()) {
      return Optional.of(text.replace(",", ""));
    }
    return Optional.of(DECIMAL.matcher(text)).filter(Matcher::matches).map(found -> found.group(1));
  }

  /** Whether a text may differ from another in capitals alone. */
  static boolean hasLetters(String text) {
    for (int i = 0; i < text.length(); i++) {
      if (Character.isLetter(text.charAt(i))) {
        return true;
      }
    }
    return false;
  }

  private CellText() {}
}
