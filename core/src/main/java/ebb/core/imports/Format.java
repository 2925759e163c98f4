package ebb.core.imports;

/**
 * How a file is written. Found by looking, and correctable by whoever knows better.
 *
 * @param charset name of the encoding of text; null where the format has its own
 * @param separator between the values of a line; null where the format has its own
 * @param sheet of a workbook; null where there are none
 */
public record Format(Kind kind, String charset, String separator, String sheet) {
  public enum Kind {
    CSV,
    WORKBOOK,
    JSON_LINES,
    LDIF;

    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
    }
  }

  /** Comma-separated UTF-8, as RFC 4180 has it. */
  public static final Format CSV = new Format(Kind.CSV, "UTF-8", ",", null);

  /** This format with what somebody said of it; what they did not say stays as found. */
  public Format corrected(String charset, String separator, String sheet) {
    return new Format(
        kind,
        charset == null || this.charset == null ? this.charset : charset,
        separator == null || this.separator == null ? this.separator : separator,
        sheet == null || this.sheet == null ? this.sheet : sheet);
  }
}
