package ebb.service.imports;

import de.siegmar.fastcsv.writer.CsvWriter;
import ebb.core.change.Change;
import ebb.core.imports.Import;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.LinkedRow;
import ebb.core.imports.Mapping;
import ebb.core.imports.RowReport;
import ebb.core.imports.Verdict;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.service.web.Cells;
import ebb.store.Database;
import ebb.store.changes.Changes;
import ebb.store.imports.Imports;
import ebb.store.imports.Imports.Wanted;
import ebb.store.imports.LinkedRows;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Files that come out of an import: what became of each row, and the refused rows to be mended. */
@Component
final class ImportFiles {
  private static final int ROWS_AT_ONCE = 500;

  /** Spreadsheets take a file without it for one in their own old encoding. */
  private static final String BYTE_ORDER_MARK = "\uFEFF";

  private final Database database;
  private final Imports imports;
  private final LinkedRows linked;
  private final Changes changes;

  ImportFiles(Database database, Imports imports, LinkedRows linked, Changes changes) {
    this.database = database;
    this.imports = imports;
    this.linked = linked;
    this.changes = changes;
  }

  /** Every row that was not unchanged: its verdict, what was wrong, and what came of it where. */
  void report(Import made, OutputStream to) throws IOException {
    try (var csv = writer(to)) {
      csv.writeRecord(
          "Line",
          "Key",
          "Name",
          "Verdict",
          "What is different",
          "What is wrong",
          "Outcome",
          "List");
      eachPart(
          made,
          Wanted.ALL,
          rows -> {
            var outcomes = outcomes(made, rows);
            rows.forEach(
                row ->
                    csv.writeRecord(
                        cells(
                            Stream.of(
                                row.line(),
                                row.key(),
                                name(row),
                                row.verdict().word(),
                                edits(row),
                                problems(row, Problem::what),
                                row.person() == null ? "" : outcomes.getOrDefault(row.person(), ""),
                                "people"))));
          });
      for (var file : LinkedFile.values()) {
        eachLinked(made, file, row -> csv.writeRecord(cells(linked(row))));
      }
    }
  }

  private static Stream<?> linked(LinkedRow row) {
    return Stream.of(
        row.line(),
        row.key(),
        row.says("name"),
        row.verdict().word(),
        "",
        row.problems().stream().map(Problem::what).collect(Collectors.joining(" ")),
        "",
        row.file().word());
  }

  private void eachLinked(Import made, LinkedFile file, Consumer<LinkedRow> each) {
    Long after = null;
    for (boolean more = true; more; ) {
      var last = after;
      var page =
          database.read(session -> linked.page(session, made.id(), file, null, last, ROWS_AT_ONCE));
      page.items().forEach(each);
      more = page.next() != null;
      after = more ? Long.valueOf(page.next()) : null;
    }
  }

  /**
   * The refused rows as they were read, with reasons beside; mended, it can be brought in again.
   */
  void refused(Import made, OutputStream to) throws IOException {
    try (var csv = writer(to)) {
      var headings = new ArrayList<String>();
      eachPart(
          made,
          new Wanted(Verdict.REFUSED, null, null, null),
          rows ->
              rows.forEach(
                  row -> {
                    if (headings.isEmpty()) {
                      headings.addAll(row.texts().keySet());
                      headings.removeIf(one -> one.startsWith(Mapping.OWN_HEADINGS));
                      csv.writeRecord(
                          cells(
                              Stream.concat(
                                  headings.stream(),
                                  Stream.of("what is wrong", "remedy", "line")
                                      .map(Mapping.OWN_HEADINGS::concat))));
                    }
                    csv.writeRecord(
                        cells(
                            Stream.concat(
                                headings.stream().map(row.texts()::get),
                                Stream.of(
                                    problems(row, Problem::what),
                                    problems(row, Problem::remedy),
                                    row.line()))));
                  }));
    }
  }

  private interface EachPart {
    void take(List<RowReport> rows);
  }

  private void eachPart(Import made, Wanted wanted, EachPart each) {
    Long after = null;
    for (boolean more = true; more; ) {
      var last = after;
      var page =
          database.read(session -> imports.rows(session, made.id(), wanted, last, ROWS_AT_ONCE));
      each.take(page.items());
      more = page.next() != null;
      after = more ? Long.valueOf(page.next()) : null;
    }
  }

  /** As in "directory: create seen; mail: create refused". */
  private Map<PersonId, String> outcomes(Import made, List<RowReport> rows) {
    var people = rows.stream().map(RowReport::person).filter(Objects::nonNull).toList();
    if (people.isEmpty() || made.effects() == null) {
      return Map.of();
    }
    return database.read(session -> changes.of(session, made.changeSet(), people)).stream()
        .collect(
            Collectors.groupingBy(
                Change::person,
                Collectors.mapping(
                    change ->
                        "%s: %s %s"
                            .formatted(
                                change.application(), change.kind().word(), change.state().word()),
                    Collectors.joining("; "))));
  }

  private static String edits(RowReport row) {
    return row.edits().entrySet().stream()
        .map(
            edit ->
                "%s: %s → %s"
                    .formatted(
                        edit.getKey(),
                        Objects.requireNonNullElse(edit.getValue().from(), "nothing"),
                        Objects.requireNonNullElse(edit.getValue().to(), "nothing")))
        .collect(Collectors.joining("; "));
  }

  private static String problems(RowReport row, Function<Problem, String> part) {
    return row.problems().stream().map(part).distinct().collect(Collectors.joining(" "));
  }

  private static String name(RowReport row) {
    return (row.values().getOrDefault(Attributes.GIVEN_NAME, "")
            + " "
            + row.values().getOrDefault(Attributes.FAMILY_NAME, ""))
        .strip();
  }

  private static List<String> cells(Stream<?> values) {
    return values.map(Cells::defused).toList();
  }

  private static CsvWriter writer(OutputStream to) throws IOException {
    Writer text = new OutputStreamWriter(to, StandardCharsets.UTF_8);
    text.write(BYTE_ORDER_MARK);
    return CsvWriter.builder().build(text);
  }
}
