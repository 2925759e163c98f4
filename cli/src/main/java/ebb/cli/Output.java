package ebb.cli;

import de.siegmar.fastcsv.writer.CsvWriter;
import ebb.api.Listing;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.function.Function;
import java.util.stream.IntStream;

/** What the client prints: tables for people, JSON and CSV for programs. */
final class Output {
  enum Format {
    table,
    json,
    csv
  }

  /** One column of a list. */
  record Column<T>(String heading, Function<T, Object> value) {
    String text(T item) {
      var text = value.apply(item);
      return text == null ? "" : text.toString();
    }
  }

  private final PrintWriter out;
  private final Format format;

  Output(PrintWriter out, Format format) {
    this.out = out;
    this.format = format;
  }

  static <T> Column<T> column(String heading, Function<T, Object> value) {
    return new Column<>(heading, value);
  }

  /**
   * Prints a list.
   *
   * @param ifEmpty what to do next where there is nothing to show
   */
  <T> void list(Listing<T> listing, String ifEmpty, List<Column<T>> columns) {
    switch (format) {
      case json -> json(listing);
      case csv -> csv(listing.items(), columns);
      case table -> table(listing, ifEmpty, columns);
    }
  }

  /** Prints one thing: as JSON, or as text lines for both other formats. */
  void one(Object value, Runnable text) {
    if (format == Format.json) {
      json(value);
    } else {
      text.run();
    }
    out.flush();
  }

  void line(String text, Object... values) {
    out.println(values.length == 0 ? text : text.formatted(values));
    out.flush();
  }

  boolean isForPeople() {
    return format == Format.table;
  }

  private void json(Object value) {
    out.println(Service.JSON.writerWithDefaultPrettyPrinter().writeValueAsString(value));
    out.flush();
  }

  private <T> void csv(List<T> items, List<Column<T>> columns) {
    var csv = CsvWriter.builder().build(out);
    csv.writeRecord(columns.stream().map(Column::heading).toList());
    items.forEach(
        item ->
            csv.writeRecord(columns.stream().map(column -> defused(column.text(item))).toList()));
    try {
      csv.flush();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A spreadsheet takes a cell that begins so for a formula; a quotation mark keeps it text. */
  private static String defused(String text) {
    return text.matches("(?s)[=+\\-@\\t\\r].*") ? "'" + text : text;
  }

  <T> void table(Listing<T> listing, String ifEmpty, List<Column<T>> columns) {
    if (listing.items().isEmpty()) {
      out.println(ifEmpty);
      out.flush();
      return;
    }
    var rows =
        listing.items().stream()
            .map(item -> columns.stream().map(c -> c.text(item)).toList())
            .toList();
    var widths =
        IntStream.range(0, columns.size())
            .map(
                i ->
                    Math.max(
                        width(columns.get(i).heading()),
                        rows.stream().mapToInt(row -> width(row.get(i))).max().orElse(0)))
            .toArray();
    row(columns.stream().map(Column::heading).toList(), widths);
    rows.forEach(row -> row(row, widths));
    if (listing.next() != null) {
      var total =
          listing.total() != null
              ? "of " + listing.total()
              : listing.moreThan() != null
                  ? "of more than " + listing.moreThan()
                  : "there are more";
      out.println("(" + rows.size() + " shown, " + total + "; --limit shows more)");
    }
    out.flush();
  }

  private void row(List<String> cells, int[] widths) {
    var line = new StringBuilder();
    for (int i = 0; i < cells.size(); i++) {
      line.append(cells.get(i));
      if (i < cells.size() - 1) {
        line.repeat(" ", widths[i] - width(cells.get(i)) + 2);
      }
    }
    out.println(line.toString().stripTrailing());
  }

  /** Columns a text takes on a terminal: ideographs take two, combining marks none. */
  static int width(String text) {
    return text.codePoints().map(Output::width).sum();
  }

  private static int width(int codePoint) {
    return switch (Character.getType(codePoint)) {
      case Character.NON_SPACING_MARK, Character.ENCLOSING_MARK, Character.FORMAT -> 0;
      default ->
          switch (Character.UnicodeScript.of(codePoint)) {
            case HAN, HIRAGANA, KATAKANA, HANGUL -> 2;
            default -> 1;
          };
    };
  }
}
