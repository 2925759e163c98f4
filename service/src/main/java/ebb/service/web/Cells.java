package ebb.service.web;

/** Cells of files that people open in spreadsheets. */
public final class Cells {
  private static final String BEGINS_FORMULA = "=+-@\t\r\n";

  /** Null becomes an empty cell; what a spreadsheet would reckon with becomes a text. */
  public static String defused(Object value) {
    var text = value == null ? "" : value.toString();
    return !text.isEmpty() && BEGINS_FORMULA.indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
  }

  private Cells() {}
}
