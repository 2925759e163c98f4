package ebb.core.problem;

/**
 * The place a problem is about.
 *
 * @param file name of the file, feed or setting as the operator knows it; null where there is none
 * @param line from 1, the heading being line 1; null where no single line is meant
 * @param column the heading or attribute; null where the whole line is meant
 */
public record Where(String file, Long line, String column) {
  public static Where file(String file) {
    return new Where(file, null, null);
  }

  public static Where line(String file, long line) {
    return new Where(file, line, null);
  }

  public static Where cell(String file, long line, String column) {
    return new Where(file, line, column);
  }

  public static Where field(String column) {
    return new Where(null, null, column);
  }
}
