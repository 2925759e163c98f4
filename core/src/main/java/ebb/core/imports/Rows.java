package ebb.core.imports;

import java.io.Closeable;
import java.util.List;
import java.util.Optional;

/** A source being read, row by row; nothing is kept of rows already read. */
public interface Rows extends Closeable {
  List<String> headings();

  /**
   * The next row; empty at the end.
   *
   * @throws ebb.core.problem.Refusal if the file cannot be read any further; names the line
   */
  Optional<Row> next();
}
