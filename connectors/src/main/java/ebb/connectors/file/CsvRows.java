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
    var text = Encoding.reader(file, format.charset());
    try {
      return new CsvRows(
          name,
          format,
          !Encoding.endsWithLineEnd(file),
          LongUnaryOperator.identity(),
          reader(text, format.separator()));
    } catch (RuntimeException e) {
      text.close();
      throw e;
    }
  }

  /** Opens a file that was read to its end before, for some of its lines. */
  static CsvRows open(Path file, String name, Format format, List<Lines> wanted)
      throws IOException {
    var some = new SomeLines(Files.newInputStream(file), head(file, name, format), wanted);
    var text = Encoding.reader(some, format.charset());
    try {
      return new CsvRows(name, format, false, some::whole, reader(text, format.separator()));
    } catch (RuntimeException e) {
      text.close();
      throw e;
    }
  }

  /** All above the first row: the headings, and what programs write before them. */
  private static Lines head(Path file, String name, Format format) throws IOException {
    try (var rows = open(file, name, format)) {
      return new Lines(1, rows.next().map(Row::line).orElse(Long.MAX_VALUE));
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
