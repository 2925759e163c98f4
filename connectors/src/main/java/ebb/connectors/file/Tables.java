package ebb.connectors.file;

import de.siegmar.fastcsv.reader.CsvParseException;
import ebb.core.imports.Format;
import ebb.core.imports.Format.Kind;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.StringReader;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Files that hold a table: how each is written, found out by looking; and its rows. */
public final class Tables {
  private static final int HEAD = 64 * 1024;
  private static final List<String> SEPARATORS = List.of(",", ";", "\t", "|");

  /**
   * @param sheets of a workbook; empty where there are none
   */
  public record Found(Format format, List<String> sheets) {}

  /**
   * Looks into a file; its name says nothing.
   *
   * @param name what the operator calls the file
   * @throws ebb.core.problem.Refusal if it is empty, or no table in any format known here
   */
  public static Found look(Path file, String name) throws IOException {
    return look(file, name, null);
  }

  /**
   * As {@link #look(Path, String)}, where somebody may know in which encoding the file is.
   *
   * @param said the encoding; null if nobody said
   */
  public static Found look(Path file, String name, String said) throws IOException {
    byte[] head;
    try (var in = Files.newInputStream(file)) {
      head = in.readNBytes(8);
    }
    if (head.length == 0) {
      throw Amiss.empty(name);
    }
    if (starts(head, 'P', 'K', 3, 4) || starts(head, 'P', 'K', 5, 6)) {
      var sheets = WorkbookRows.sheets(file, name);
      return new Found(new Format(Kind.WORKBOOK, null, null, sheets.getFirst()), sheets);
    }
    if (starts(head, 0xD0, 0xCF, 0x11, 0xE0)) {
      throw Amiss.oldWorkbook(name);
    }
    var charset = charset(file, name, said);
    return new Found(text(head(file, charset), charset), List.of());
  }

  /** A text that is UTF-8 but for some bytes is not taken for one in an old encoding. */
  private static String charset(Path file, String name, String said) throws IOException {
    if (said != null && !said.equals(StandardCharsets.UTF_8.name())) {
      return said;
    }
    var found = Encoding.of(file);
    var mayBeMixed = found.isEmpty() || found.get().equals(Mixture.WINDOWS.name());
    var mixture =
        mayBeMixed && !Encoding.isBinary(file) ? Mixture.in(file) : Optional.<Mixture>empty();
    if (mixture.isPresent()) {
      throw Amiss.mixed(name, mixture.get());
    }
    return Optional.ofNullable(said)
        .or(() -> found)
        .orElseThrow(() -> Amiss.notText(name, "UTF-8, UTF-16 or Windows-1252", null));
  }

  /**
   * Opens a file and reads its headings.
   *
   * @param name what the operator calls the file
   * @throws ebb.core.problem.Refusal if it cannot be read so
   */
  public static Rows open(Path file, String name, Format format) throws IOException {
    return switch (format.kind()) {
      case CSV -> CsvRows.open(file, name, format);
      case WORKBOOK -> WorkbookRows.open(file, name, format.sheet());
      case JSON_LINES -> JsonRows.open(file, name, format.charset());
      case LDIF -> LdifRows.open(file, name);
    };
  }

  private static Format text(String head, String charset) {
    var first = head.stripLeading();
    if (first.startsWith("{") || first.startsWith("[")) {
      return new Format(Kind.JSON_LINES, charset, null, null);
    }
    if (first
        .lines()
        .filter(line -> !line.startsWith("#"))
        .findFirst()
        .orElse("")
        .matches("(?i)(version: ?\\d+|dn::? ?.*)")) {
      return new Format(Kind.LDIF, "UTF-8", null, null);
    }
    return new Format(Kind.CSV, charset, separator(head), null);
  }

  private static String head(Path file, String charset) throws IOException {
    var head = new char[HEAD];
    int length = 0;
    // What is not of the encoding that somebody said is told with its line once the rows are read.
    try (var reader = new InputStreamReader(Files.newInputStream(file), Charset.forName(charset))) {
      for (int read = 0; read >= 0 && length < HEAD; length += Math.max(read, 0)) {
        read = reader.read(head, length, HEAD - length);
      }
    }
    return new String(head, 0, length).replace("\uFEFF", "");
  }

  /** The sign that gives most lines the same number of columns, and more than one. */
  private static String separator(String head) {
    var said = head.lines().findFirst().orElse("");
    if (said.matches("(?i)sep=.")) {
      return said.substring(4);
    }
    return SEPARATORS.stream()
        .max(Comparator.comparingDouble(separator -> evenness(head, separator)))
        .filter(separator -> evenness(head, separator) > 0)
        .orElse(",");
  }

  private static double evenness(String head, String separator) {
    var widths = new ArrayList<Integer>();
    try (var reader = CsvRows.reader(new StringReader(head), separator)) {
      for (var record : reader) {
        widths.add(record.getFieldCount());
      }
    } catch (CsvParseException | IOException _) {
      // The head may end within quotation marks; what was read before tells enough.
    }
    // The last one may be cut off by the end of the head.
    return evenness(widths.size() > 2 ? widths.subList(0, widths.size() - 1) : widths);
  }

  private static double evenness(List<Integer> widths) {
    var usual =
        widths.stream()
            .collect(Collectors.groupingBy(Function.identity(), Collectors.counting()))
            .entrySet()
            .stream()
            .filter(width -> width.getKey() > 1)
            .max(Map.Entry.comparingByValue());
    return usual
        .map(width -> width.getValue() / (double) widths.size() + width.getKey() / 1_000.0)
        .orElse(0.0);
  }

  private static boolean starts(byte[] head, int... signature) {
    for (int i = 0; i < signature.length; i++) {
      if (i >= head.length || (head[i] & 0xFF) != signature[i]) {
        return false;
      }
    }
    return true;
  }

  private Tables() {}
}
