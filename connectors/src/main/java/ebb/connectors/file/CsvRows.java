package ebb.connectors.file;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import ebb.core.imports.Format;
import ebb.core.imports.Lines;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.function.LongUnaryOperator;
import java.util.function.Supplier;

/** Separated values (RFC 4180, and with other separators and line ends), read as a stream. */
final class CsvRows implements Rows {
  /** Far beyond any value of a person's; a quotation mark never closed is found soon. */
  private static final int LONGEST_VALUE = 256 * 1024;

  private final String name;
  private final Format format;
  private final boolean endsAbruptly;
  private final CsvReader<CsvRecord> reader;
  private final LongUnaryOperator lines;
  private final Iterator<CsvRecord> records;
  private final List<String> headings;
  private long line = 1;

  private CsvRows(
      String name,
      Format format,
      boolean endsAbruptly,
      LongUnaryOperator lines,
      CsvReader<CsvRecord> reader) {
    this.name = name;
    this.format = format;
    this.endsAbruptly = endsAbruptly;
    this.lines = lines;
    this.reader = reader;
    this.records = reader.iterator();
    this.headings = Headings.of(name, firstRecord());
  }

  /**
   * Opens a file and reads its headings.
   *
   * @throws ebb.core.problem.Refusal if it is empty, not text, or not CSV
   */
  static CsvRows open(Path file, String name, Format format) throws IOException {
    var endsAbruptly = !Encoding.endsWithLineEnd(file);
    return of(Files.newInputStream(file), name, format, endsAbruptly, LongUnaryOperator.identity());
  }

  /**
   * As {@link #open(Path, String, Format)}.
   *
   * @param marks where to note what lines begin where, until the end was read
   */
  static CsvRows open(Path file, String name, Format format, LineMarks marks) throws IOException {
    var endsAbruptly = !Encoding.endsWithLineEnd(file);
    var marking = new Marking(Files.newInputStream(file), marks);
    return of(marking, name, format, endsAbruptly, LongUnaryOperator.identity());
  }

  /** Opens a file that was read to its end before, for some of its lines. */
  static CsvRows open(Path file, String name, Format format, LineMarks marks, List<Lines> wanted)
      throws IOException {
    var some = new SomeLines(file, marks, head(file, name, format), wanted);
    return of(some, name, format, false, some::whole);
  }

  private static CsvRows of(
      InputStream bytes, String name, Format format, boolean endsAbruptly, LongUnaryOperator lines)
      throws IOException {
    try {
      var text = Encoding.reader(bytes, format.charset());
      return new CsvRows(name, format, endsAbruptly, lines, reader(text, format.separator()));
    } catch (RuntimeException e) {
      bytes.close();
      throw e;
    }
  }

  /** All above the first row: the headings, and what programs write before them. */
  private static Lines head(Path file, String name, Format format) throws IOException {
    try (var rows = open(file, name, format)) {
      return new Lines(1, rows.next().map(Row::line).orElse(Long.MAX_VALUE));
    }
  }

  /** Bytes of which is noted what lines begin where. */
  private static final class Marking extends ByBlocks {
    private final InputStream bytes;
    private final LineMarks marks;

    Marking(InputStream bytes, LineMarks marks) {
      this.bytes = bytes;
      this.marks = marks;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
      int read = bytes.read(into, from, length);
      if (read > 0) {
        marks.note(into, from, from + read);
      }
      return read;
    }

    @Override
    public void close() throws IOException {
      bytes.close();
    }
  }

  static CsvReader<CsvRecord> reader(Reader text, String separator) {
    return CsvReader.builder()
        .fieldSeparator(separator)
        .skipEmptyLines(true)
        .allowUnclosedQuote(false)
        .maxBufferSize(LONGEST_VALUE)
        .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
        .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
        .ofCsvRecord(text);
  }

  @Override
  public List<String> headings() {
    return headings;
  }

  @Override
  public Optional<Row> next() {
    while (read(records::hasNext)) {
      var row = row(read(records::next));
      if (endsAbruptly && row.cells().size() < headings.size() && !read(records::hasNext)) {
        throw Amiss.cutOff(name, row.line());
      }
      if (!row.isBlank()) {
        return Optional.of(row.within(headings.size()));
      }
    }
    return Optional.empty();
  }

  @Override
  public void close() throws IOException {
    reader.close();
  }

  private Row row(CsvRecord csv) {
    line = lines.applyAsLong(csv.getStartingLineNumber());
    for (int i = 0; i < csv.getFieldCount(); i++) {
      if (csv.getField(i).indexOf('\0') >= 0) {
        throw Amiss.notText(name, format.charset(), line);
      }
    }
    return new Row(line, csv.getFields());
  }

  private List<String> firstRecord() {
    if (!read(records::hasNext)) {
      throw Amiss.empty(name);
    }
    var first = row(read(records::next)).cells();
    // Some programs write into the first line by what the values are separated.
    var isSeparatorOnly = first.getFirst().matches("(?i)\uFEFF?sep=.?");
    return isSeparatorOnly ? firstRecord() : first;
  }

  private <T> T read(Supplier<T> step) {
    try {
      return step.get();
    } catch (CsvParseException e) {
      throw isNoText(e)
          ? Amiss.notText(name, format.charset(), null)
          : Amiss.notCsv(name, e.getMessage(), line + 1);
    } catch (UncheckedIOException _) {
      throw Amiss.notText(name, format.charset(), null);
    }
  }

  private static boolean isNoText(Throwable e) {
    for (var cause = e.getCause(); cause != null; cause = cause.getCause()) {
      if (cause instanceof CharacterCodingException) {
        return true;
      }
    }
    return false;
  }
}
