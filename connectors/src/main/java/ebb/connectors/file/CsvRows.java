package ebb.connectors.file;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * Comma-separated values (RFC 4180) in UTF-8, with or without a byte order mark, read as a stream.
 */
public final class CsvRows implements Rows {
  private final String name;
  private final CsvReader<CsvRecord> reader;
  private final Iterator<CsvRecord> records;
  private final List<String> headings;

  private CsvRows(String name, CsvReader<CsvRecord> reader) {
    this.name = name;
    this.reader = reader;
    this.records = reader.iterator();
    // A byte order mark is no part of the first heading.
    this.headings =
        firstRecord().stream().map(heading -> heading.replace("\uFEFF", "").strip()).toList();
  }

  /**
   * Opens a file and reads its headings.
   *
   * @param name what the operator calls the file
   * @throws Refusal if it is empty, not text, or not CSV
   */
  public static CsvRows open(Path file, String name) throws IOException {
    // A reader that reports what is not UTF-8, where the usual ones put question marks.
    Reader text =
        new InputStreamReader(
            Files.newInputStream(file),
            StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT));
    try {
      return new CsvRows(
          name,
          CsvReader.builder()
              .skipEmptyLines(true)
              .allowUnclosedQuote(false)
              .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
              .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
              .ofCsvRecord(text));
    } catch (RuntimeException e) {
      text.close();
      throw e;
    }
  }

  @Override
  public List<String> headings() {
    return headings;
  }

  @Override
  public Optional<Row> next() {
    return read(records::hasNext)
        ? Optional.of(read(records::next)).map(this::row)
        : Optional.empty();
  }

  @Override
  public void close() throws IOException {
    reader.close();
  }

  private Row row(CsvRecord csv) {
    if (csv.getFields().stream().anyMatch(cell -> cell.indexOf('\0') >= 0)) {
      throw Refusal.invalid(notText(csv.getStartingLineNumber()));
    }
    return new Row(csv.getStartingLineNumber(), csv.getFields());
  }

  private List<String> firstRecord() {
    if (!read(records::hasNext)) {
      throw Refusal.invalid(
          new Problem(
              "file-empty",
              "%s is empty.".formatted(name),
              "It does not even have headings.",
              "Export it again; the first line must hold the headings.",
              Where.file(name)));
    }
    return row(read(records::next)).cells();
  }

  private <T> T read(Supplier<T> step) {
    try {
      return step.get();
    } catch (CsvParseException e) {
      throw Refusal.invalid(isNoText(e) ? notText(null) : notCsv(e));
    } catch (UncheckedIOException e) {
      throw Refusal.invalid(notText(null));
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

  private Problem notText(Long line) {
    return new Problem(
        "file-not-text",
        "%s is not text in UTF-8.".formatted(name),
        "It is a file of another kind, or was saved in another encoding.",
        "Save it as CSV, UTF-8.",
        new Where(name, line, null));
  }

  private Problem notCsv(CsvParseException e) {
    return new Problem(
        "file-not-csv",
        "%s cannot be read as CSV: %s".formatted(name, e.getMessage()),
        "A quotation mark is opened and never closed, or a value is longer than any could be.",
        "Correct that line.",
        Where.file(name));
  }
}
