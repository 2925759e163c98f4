package ebb.connectors.file;

import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Sheet;

/**
 * One sheet of a workbook (Office Open XML, ECMA-376), read as a stream. Dates become ISO 8601,
 * numbers plain digits, formulas what they gave when the workbook was saved.
 */
final class WorkbookRows implements Rows {
  /** A million people of twenty values take about 600 MB unpacked; such a list is better a CSV. */
  static final long LARGEST_UNPACKED = 512L << 20;

  private static final ReadingOptions WITH_FORMATS = new ReadingOptions(true, false);

  private final String name;
  private final ReadableWorkbook workbook;
  private final Stream<org.dhatim.fastexcel.reader.Row> stream;
  private final Iterator<org.dhatim.fastexcel.reader.Row> rows;
  private final List<String> headings;

  private WorkbookRows(String name, ReadableWorkbook workbook, Sheet sheet) throws IOException {
    this.name = name;
    this.workbook = workbook;
    this.stream = sheet.openStream();
    this.rows = stream.iterator();
    this.headings = Headings.of(name, firstRow());
  }

  static WorkbookRows open(Path file, String name, String sheet) throws IOException {
    check(file, name);
    var workbook = workbook(file, name);
    try {
      var there = workbook.getSheets().toList();
      var chosen =
          there.stream()
              .filter(one -> sheet == null || one.getName().equals(sheet))
              .findFirst()
              .orElseThrow(() -> Amiss.noSheet(name, sheet, names(there)));
      return new WorkbookRows(name, workbook, chosen);
    } catch (IOException | RuntimeException e) {
      workbook.close();
      throw e;
    }
  }

  /** Names of the sheets, in their order; the first is read unless another is chosen. */
  static List<String> sheets(Path file, String name) throws IOException {
    check(file, name);
    try (var workbook = workbook(file, name)) {
      return workbook.getSheets().map(Sheet::getName).toList();
    }
  }

  @Override
  public List<String> headings() {
    return headings;
  }

  @Override
  public Optional<Row> next() {
    while (read(rows::hasNext)) {
      var row = read(rows::next);
      var cells = new ArrayList<>(cells(row));
      while (cells.size() < headings.size()) {
        cells.add("");
      }
      var read = new Row(row.getRowNum(), cells);
      if (!read.isBlank()) {
        return Optional.of(read.within(headings.size()));
      }
    }
    return Optional.empty();
  }

  @Override
  public void close() throws IOException {
    stream.close();
    workbook.close();
  }

  private List<String> firstRow() {
    while (read(rows::hasNext)) {
      var cells = cells(read(rows::next));
      if (cells.stream().anyMatch(cell -> !cell.isBlank())) {
        return cells;
      }
    }
    throw Amiss.empty(name);
  }

  private List<String> cells(org.dhatim.fastexcel.reader.Row row) {
    var cells = new ArrayList<String>();
    for (int i = 0; i < row.getCellCount(); i++) {
      cells.add(row.getOptionalCell(i).map(WorkbookRows::text).orElse(""));
    }
    return cells;
  }

  private static String text(Cell cell) {
    return switch (cell.getType()) {
      case NUMBER -> number(cell);
      case BOOLEAN -> cell.asBoolean().toString();
      case STRING -> cell.asString();
      case FORMULA, ERROR -> cell.getRawValue() == null ? "" : cell.getRawValue();
      case EMPTY -> "";
    };
  }

  private static String number(Cell cell) {
    if (isDate(cell)) {
      var date = cell.asDate();
      return date.toLocalTime().equals(LocalTime.MIDNIGHT)
          ? date.toLocalDate().toString()
          : date.toString();
    }
    return plain(cell.asNumber());
  }

  private static String plain(BigDecimal number) {
    return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
  }

  /** A number whose format has a day or a year in it; quoted text of a format does not count. */
  private static boolean isDate(Cell cell) {
    var format = cell.getDataFormatString();
    return cell.getType() == CellType.NUMBER
        && format != null
        && format.replaceAll("\"[^\"]*\"|\\[[^\\]]*\\]|\\\\.", "").matches("(?i).*[dy].*");
  }

  private <T> T read(Supplier<T> step) {
    try {
      return step.get();
    } catch (ExcelReaderException e) {
      throw Amiss.notWorkbook(name, e.getMessage());
    }
  }

  private static ReadableWorkbook workbook(Path file, String name) throws IOException {
    try {
      return new ReadableWorkbook(file.toFile(), WITH_FORMATS);
    } catch (ExcelReaderException e) {
      throw Amiss.notWorkbook(name, e.getMessage());
    }
  }

  /** Unpacks all of it into nothing: what an archive says of its own size is not to be trusted. */
  private static void check(Path file, String name) throws IOException {
    try (var zip = new ZipFile(file.toFile())) {
      if (zip.getEntry("xl/workbook.xml") == null) {
        throw Amiss.archive(name);
      }
      long most = Unpacked.most(file, LARGEST_UNPACKED);
      long total = 0;
      var buffer = new byte[64 * 1024];
      for (var entries = zip.entries(); entries.hasMoreElements(); ) {
        try (InputStream in = zip.getInputStream(entries.nextElement())) {
          for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
            total += read;
            if (total > most) {
              throw Amiss.swells(name, most);
            }
          }
        }
      }
    } catch (ZipException e) {
      throw Amiss.notWorkbook(name, e.getMessage());
    }
  }

  private static String names(List<Sheet> sheets) {
    return sheets.stream().map(Sheet::getName).collect(Collectors.joining(", "));
  }
}
