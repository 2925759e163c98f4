package ebb.connectors.file;

import ebb.core.imports.Lines;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;

/** The rows among others that begin in some lines. */
final class SomeRows implements Rows {
  private final Rows all;
  private final Iterator<Lines> wanted;
  private Lines lines;

  /**
   * @param wanted in their order
   */
  SomeRows(Rows all, List<Lines> wanted) {
    this.all = all;
    this.wanted = wanted.iterator();
    this.lines = this.wanted.next();
  }

  @Override
  public List<String> headings() {
    return all.headings();
  }

  @Override
  public Optional<Row> next() {
    for (var row = all.next(); row.isPresent(); row = all.next()) {
      while (row.get().line() >= lines.to()) {
        if (!wanted.hasNext()) {
          return Optional.empty();
        }
        lines = wanted.next();
      }
      if (row.get().line() >= lines.from()) {
        return row;
      }
    }
    return Optional.empty();
  }

  @Override
  public void close() throws IOException {
    all.close();
  }
}
