package ebb.connectors.file;

import ebb.core.imports.Format;
import ebb.core.imports.Format.Kind;
import ebb.core.imports.Lines;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** A file that is read to its end, and then again for some of its rows. */
public final class TwoPasses {
  private final Path file;
  private final String name;
  private final Format format;
  private final LineMarks marks = new LineMarks();

  /**
   * @param name what the operator calls the file
   */
  public TwoPasses(Path file, String name, Format format) {
    this.file = file;
    this.name = name;
    this.format = format;
  }

  /** As {@link Tables#open}; once. */
  public Rows first() throws IOException {
    return isByBytes() ? CsvRows.open(file, name, format, marks) : Tables.open(file, name, format);
  }

  /**
   * The file again, once its first reading came to its end.
   *
   * @param wanted the lines that the rows take up, in their order; not empty
   */
  public Rows again(List<Lines> wanted) throws IOException {
    return isByBytes()
        ? CsvRows.open(file, name, format, marks, wanted)
        : new SomeRows(Tables.open(file, name, format), wanted);
  }

  /** Whether lines can be found without knowing what the bytes mean. */
  private boolean isByBytes() {
    return format.kind() == Kind.CSV && !format.charset().startsWith("UTF-16");
  }
}
