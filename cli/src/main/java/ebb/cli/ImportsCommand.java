package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.CodeRequest;
import ebb.api.ImportView;
import ebb.api.LinkedFileView;
import ebb.api.LinkedRowView;
import ebb.api.MappingEdit;
import ebb.api.MappingView;
import ebb.api.MendRequest;
import ebb.api.MendedView;
import ebb.api.MissingAnswer;
import ebb.api.MissingView;
import ebb.api.ProblemKindView;
import ebb.api.RowAnswer;
import ebb.api.RowView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "imports",
    mixinStandardHelpOptions = true,
    description = "Bring files in: read, checked, matched and shown before anything is written.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb imports template people.xlsx",
      "  ebb imports add hr.csv --complete",
      "  ebb imports rows 2 --verdict refused",
      "  ebb imports mend 2 17 Start=2027-03-01 --alike",
      "  ebb imports answer 2 417 same:31",
      "  ebb imports decide 2 4711 leaver"
    })
final class ImportsCommand {
  /** Of such a reading nothing is to be said but why. */
  static final String BROKE_OFF = "import-broke";

  private static final String PATH = "/api/v1/imports";
  private static final int PROBLEMS_SHOWN = 20;

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = "Bring a file in (CSV, workbook, JSON lines, LDIF) and show what it would do.",
      footer = {
        "",
        "Files linked to it (units, groups, memberships, pictures called by the person's key) are",
        "named beside it, or come in one ZIP archive:",
        "  ebb imports add people.csv units.csv groups.csv memberships.csv",
        "  ebb imports add pictures.zip --source hr"
      })
  void add(
      @Parameters(paramLabel = "FILE", arity = "1..*") List<Path> files,
      @Option(
              names = "--source",
              description = "where it comes from; known by its columns if left out")
          String source,
      @Option(names = "--complete", description = "people it does not name are missing")
          boolean complete,
      @Option(names = "--mode", description = "add-and-update, add-only or update-only")
          String mode,
      @Option(names = "--charset", description = "if it was not found out rightly") String charset,
      @Option(names = "--separator", description = "if it was not found out rightly")
          String separator,
      @Option(names = "--sheet", description = "of a workbook; the first if left out") String sheet)
      throws IOException {
    for (var file : files) {
      if (!Files.isRegularFile(file)) {
        throw new Failure(
            "There is no file " + file + ".", "It cannot be read.", "Check the path.");
      }
    }
    var first = files.getFirst().getFileName().toString();
    var query = new StringBuilder("?complete=" + complete);
    said(query, "file", files.size() == 1 ? first : first + " and others");
    said(query, "source", source);
    said(query, "mode", mode);
    said(query, "charset", charset);
    said(query, "separator", separator);
    said(query, "sheet", sheet);
    if (files.size() == 1) {
      bring(query.toString(), files.getFirst());
    } else {
      var packed = packed(files);
      try {
        bring(query.toString(), packed);
      } finally {
        Files.deleteIfExists(packed);
      }
    }
  }

  private void bring(String query, Path file) throws IOException {
    showWhole(followed(main.service().upload(PATH + query, file, ImportView.class)));
  }

  /** Files that belong together travel as one archive. */
  private static Path packed(List<Path> files) throws IOException {
    var packed = Files.createTempFile("ebb-", ".zip");
    try (var zip = new ZipOutputStream(Files.newOutputStream(packed))) {
      for (var file : files) {
        zip.putNextEntry(new ZipEntry(file.getFileName().toString()));
        Files.copy(file, zip);
        zip.closeEntry();
      }
    }
    return packed;
  }

  private static void said(StringBuilder query, String name, String value) {
    if (value != null) {
      query.append('&').append(name).append('=').append(Service.encoded(value));
    }
  }

  /** The service goes on by itself; this waits for it. */
  private ImportView followed(ImportView made) {
    var now = made;
    while (now.progress() != null) {
      if (main.output().isForPeople()) {
        main.err().print("\r" + Progressing.words(now.progress(), "rows") + "   ");
        main.err().flush();
      }
      pause();
      now = main.service().get(PATH + "/" + made.id(), ImportView.class);
    }
    return now;
  }

  private static void pause() {
    try {
      Thread.sleep(500);
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
      throw new Failure(
          "The client was interrupted.",
          "The service reads on by itself.",
          "See: ebb imports list");
    }
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say how the columns of a file are read; it is remembered.",
      footer =
          "%n  ebb imports map 3 --source hr --column 'Staff no=employeeNumber' --date d.M.uuuu")
  void map(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--source", description = "where it comes from, as in hr") String source,
      @Option(names = "--key", description = "heading of the column with the stable key")
          String key,
      @Option(
              names = "--column",
              description = "HEADING=attribute, or HEADING= not to use it; the others as suggested")
          Map<String, String> columns,
      @Option(names = "--date", description = "as in d.M.uuuu or M/d/uuuu") String dateFormat,
      @Option(names = "--compute", description = "attribute=expression over row")
          Map<String, String> computed,
      @Option(
              names = "--complete",
              description = "people it does not name are missing",
              arity = "1")
          Boolean complete,
      @Option(names = "--mode", description = "add-and-update, add-only or update-only")
          String mode,
      @Option(
              names = "--everyone",
              description =
                  "attribute=value for each row that says nothing of it, as in endDate=2027-09-30")
          Map<String, String> everyone) {
    var now = main.service().get(PATH + "/" + id + "/mapping", MappingView.class);
    var all = new TreeMap<String, String>();
    now.columns().stream()
        .filter(column -> column.attribute() != null)
        .forEach(column -> all.put(column.heading(), column.attribute()));
    if (columns != null) {
      all.putAll(columns);
    }
    var edit =
        new MappingEdit(
            source,
            key,
            all,
            dateFormat,
            computed,
            null,
            null,
            null,
            null,
            complete,
            mode,
            everyone);
    showWhole(
        followed(
            main.service().write("PUT", PATH + "/" + id + "/mapping", edit, ImportView.class)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What is wrong with refused rows, by kind.")
  void problems(@Parameters(paramLabel = "ID") long id) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/problems", ProblemKindView.class, 1000),
            "No row is refused.",
            List.of(
                column("ROWS", ProblemKindView::rows),
                column("CODE", ProblemKindView::code),
                column("COLUMN", ProblemKindView::heading),
                column("FOR EXAMPLE", kind -> kind.example().what()),
                column("REMEDY", kind -> kind.example().remedy())));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Mend a refused row; it is checked again at once.",
      footer = "%n  ebb imports mend 3 17 Start=2027-03-01 --alike")
  void mend(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "LINE", index = "1") long line,
      @Parameters(paramLabel = "HEADING=TEXT", index = "2..*") Map<String, String> texts,
      @Option(
              names = "--alike",
              description = "every row refused because the same text stands there")
          boolean alike) {
    mended(
        main.service()
            .write(
                "PUT",
                PATH + "/%d/rows/%d/mend".formatted(id, line),
                new MendRequest(texts, alike),
                MendedView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say once what a code of the file means; it is remembered.")
  void means(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ATTRIBUTE", index = "1") String attribute,
      @Parameters(paramLabel = "CODE", index = "2") String code,
      @Parameters(paramLabel = "MEANING", index = "3") String meaning) {
    mended(
        main.service()
            .write(
                "PUT",
                PATH + "/%d/codes".formatted(id),
                new CodeRequest(attribute, code, meaning),
                MendedView.class));
  }

  private void mended(MendedView mended) {
    main.output()
        .one(
            mended,
            () ->
                main.output()
                    .line(
                        "%s checked again; %d refused still.",
                        Text.count(mended.rows(), "row was", "rows were"), mended.refused()));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Write what became of each row into a CSV file.")
  void report(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "FILE", index = "1") Path file) {
    fetch(PATH + "/" + id + "/report", file);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Write the refused rows with their reasons into a CSV file, to be mended.")
  void refused(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "FILE", index = "1") Path file) {
    fetch(PATH + "/" + id + "/refused", file);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Write an empty list to be filled in, as .xlsx or .csv; as .zip with files linked to it.")
  void template(@Parameters(paramLabel = "FILE") Path file) {
    var name = file.toString();
    var format = name.endsWith(".csv") ? "csv" : name.endsWith(".zip") ? "zip" : "xlsx";
    fetch(PATH + "/template?format=" + format, file);
  }

  private void fetch(String path, Path file) {
    main.service().download(path, file);
    main.output().line("Written: %s", file);
  }

  @Command(mixinStandardHelpOptions = true, description = "Imports, newest first.")
  void list(@Option(names = "--limit", defaultValue = "20") int limit) {
    main.output()
        .list(
            main.service().list(PATH, ImportView.class, limit),
            "Nothing was brought in yet. Begin with: ebb imports add FILE --source NAME",
            List.of(
                column("ID", ImportView::id),
                column("FILE", ImportView::file),
                column("SOURCE", ImportView::source),
                column("STAGE", ImportView::stage),
                column("ROWS", made -> counts(made)),
                column("CHANGE SET", ImportView::changeSet),
                column("WHEN", made -> Text.time(made.createdAt()))));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "One import, with its refused rows and missing people.")
  void show(@Parameters(paramLabel = "ID") long id) {
    showWhole(main.service().get(PATH + "/" + id, ImportView.class));
  }

  private void showWhole(ImportView made) {
    var out = main.output();
    out.one(
        made,
        () -> {
          out.line(
              "Import %d: %s (%s)%s",
              made.id(),
              made.file(),
              made.format() == null ? "no list of people" : made.format(),
              made.complete() ? ", declared complete" : "");
          if (!made.questions().isEmpty()) {
            ask(made);
            return;
          }
          out.line("  %s", counts(made));
          main.service()
              .list(PATH + "/" + made.id() + "/linked", LinkedFileView.class, 10)
              .items()
              .forEach(file -> out.line("  %s: %s", file.file(), counts(file.counts())));
          refused(made.id());
          setAside(made.id());
          missing(made.id());
          new Sets(main).show(set(made.changeSet()));
        });
  }

  /** What is not known of the file, with what is suggested. */
  private void ask(ImportView made) {
    var out = main.output();
    made.questions()
        .forEach(
            question -> {
              out.line("  %s", question.what());
              out.line("    %s", question.why());
              out.line("    %s", question.remedy());
            });
    if (made.questions().stream().anyMatch(question -> question.code().equals(BROKE_OFF))) {
      return;
    }
    var mapping = main.service().get(PATH + "/" + made.id() + "/mapping", MappingView.class);
    out.line("  %-28s the key", Text.orDash(mapping.key()));
    for (var column : mapping.columns()) {
      out.line(
          "  %-28s %-22s %3d%%  %s  [%s]",
          column.heading(),
          column.attribute() == null ? "not used" : column.attribute(),
          column.confidence(),
          column.reason(),
          String.join(", ", column.examples()));
    }
    out.line(
        mapping.dateFormat() != null
            ? "  Dates are written %s."
            : mapping.dateFormats().isEmpty()
                ? "  Dates are written in several ways: say with --date how most are.%s"
                : "  Dates may be read as %s: say which with --date.",
        mapping.dateFormat() != null
            ? mapping.dateFormat()
            : String.join(" or ", mapping.dateFormats()));
    out.line(
        "  Confirm it: ebb imports map %d --source %s [--key HEADING] [--column HEADING=attribute]",
        made.id(), made.source() == null ? "NAME" : made.source());
  }

  private ChangeSetView set(long id) {
    return main.service().get("/api/v1/change-sets/" + id, ChangeSetView.class);
  }

  private static String counts(ImportView made) {
    return counts(made.counts());
  }

  private static String counts(Map<String, Long> counts) {
    return counts.entrySet().stream()
        .filter(count -> count.getValue() > 0)
        .map(count -> count.getValue() + " " + count.getKey())
        .collect(Collectors.joining(", "));
  }

  private void refused(long id) {
    var refused =
        main.service()
            .list(PATH + "/" + id + "/rows?verdict=refused", RowView.class, PROBLEMS_SHOWN);
    for (var row : refused.items()) {
      row.problems()
          .forEach(
              problem -> {
                main.output().line("  refused  %s: %s", problem.where(), problem.what());
                main.output().line("           %s %s", problem.why(), problem.remedy());
              });
    }
    if (refused.next() != null) {
      main.output().line("  more: ebb imports rows %d --verdict refused --limit 1000", id);
    }
  }

  private void setAside(long id) {
    for (var row :
        main.service()
            .list(PATH + "/" + id + "/rows?verdict=set-aside", RowView.class, PROBLEMS_SHOWN)
            .items()) {
      main.output()
          .line(
              "  set aside  line %d, %s (%s)%s",
              row.line(),
              row.name(),
              row.key(),
              row.answer() == null ? "" : ": answered " + row.answer());
      row.resembles()
          .forEach(
              like ->
                  main.output()
                      .line(
                          "             may be %s, person %d (%d of 100): %s",
                          like.displayName(),
                          like.person(),
                          like.score(),
                          String.join(", ", like.reasons())));
      if (row.answer() == null) {
        main.output()
            .line("             answer: ebb imports answer %d %d new, or same:ID", id, row.line());
      }
    }
  }

  private void missing(long id) {
    for (var one :
        main.service()
            .list(PATH + "/" + id + "/missing", MissingView.class, PROBLEMS_SHOWN)
            .items()) {
      main.output()
          .line(
              "  missing  %s (%s, person %d): %s",
              one.displayName(), one.key(), one.person(), one.decision());
      if (one.decision().equals("undecided")) {
        main.output()
            .line(
                "           decide: ebb imports decide %d %s leaver, still-here or unknown",
                id, one.key());
      }
    }
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Rows with their verdicts; unchanged ones are only counted.")
  void rows(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--verdict", description = "new, changed, set-aside or refused")
          String verdict,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH
                        + "/"
                        + id
                        + "/rows"
                        + (verdict == null ? "" : "?verdict=" + Service.encoded(verdict)),
                    RowView.class,
                    limit),
            "No such rows.",
            List.of(
                column("LINE", RowView::line),
                column("VERDICT", RowView::verdict),
                column("KEY", RowView::key),
                column("NAME", RowView::name),
                column("PERSON", RowView::person),
                column("WHAT", ImportsCommand::what)));
  }

  /** What is wrong with a row, what it changes, or whom it may be: it has one of these. */
  private static String what(RowView row) {
    var whole = new ArrayList<String>();
    row.problems().forEach(problem -> whole.add(problem.what() + " " + problem.remedy()));
    row.edits()
        .forEach(
            edit ->
                whole.add(
                    "%s: %s → %s;"
                        .formatted(
                            edit.attribute(),
                            edit.before() == null ? "nothing" : edit.before(),
                            edit.after() == null ? "nothing" : edit.after())));
    row.resembles()
        .forEach(
            like ->
                whole.add(
                    "may be %s (%d, %d %%: %s);"
                        .formatted(
                            like.displayName(),
                            like.person(),
                            like.score(),
                            String.join(", ", like.reasons()))));
    return String.join(" ", whole).replaceAll(";$", "");
  }

  @Command(mixinStandardHelpOptions = true, description = "People a complete file does not name.")
  void missing(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service().list(PATH + "/" + id + "/missing", MissingView.class, limit),
            "Nobody is missing.",
            List.of(
                column("KEY", MissingView::key),
                column("PERSON", MissingView::person),
                column("NAME", MissingView::displayName),
                column("DECISION", MissingView::decision)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What came along: units, groups, memberships, pictures.")
  void linked(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(
              paramLabel = "FILE",
              index = "1",
              arity = "0..1",
              description = "units, groups, memberships or pictures; how many of each if left out")
          String file,
      @Option(names = "--verdict", description = "as in new, changed, set-aside or refused")
          String verdict,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    var path = PATH + "/" + id + "/linked";
    if (file == null) {
      main.output()
          .list(
              main.service().list(path, LinkedFileView.class, limit),
              "No other files came along.",
              List.of(
                  column("FILE", LinkedFileView::file),
                  column("ROWS", one -> counts(one.counts()))));
    } else {
      main.output()
          .list(
              main.service()
                  .list(
                      path
                          + "/"
                          + Service.encoded(file)
                          + (verdict == null ? "" : "?verdict=" + Service.encoded(verdict)),
                      LinkedRowView.class,
                      limit),
              "No such rows.",
              List.of(
                  column("LINE", LinkedRowView::line),
                  column("VERDICT", LinkedRowView::verdict),
                  column("SAYS", row -> said(row)),
                  column(
                      "WHAT",
                      row ->
                          row.problems().stream()
                              .map(p -> p.what() + " " + p.remedy())
                              .collect(Collectors.joining(" ")))));
    }
  }

  private static String said(LinkedRowView row) {
    return row.says().entrySet().stream()
        .filter(one -> !one.getKey().equals("picture"))
        .map(one -> one.getKey() + " " + one.getValue())
        .collect(Collectors.joining(", "));
  }

  @Command(mixinStandardHelpOptions = true, description = "Answer a row set aside.")
  void answer(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "LINE", index = "1") long line,
      @Parameters(paramLabel = "ANSWER", index = "2", description = "new, or same:ID")
          String answer) {
    var row =
        main.service()
            .write(
                "PUT",
                PATH + "/%d/rows/%d/answer".formatted(id, line),
                new RowAnswer(answer),
                RowView.class);
    main.output().one(row, () -> main.output().line("Line %d: %s.", row.line(), row.answer()));
  }

  @Command(mixinStandardHelpOptions = true, description = "Decide about a missing person.")
  void decide(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "KEY", index = "1") String key,
      @Parameters(
              paramLabel = "DECISION",
              index = "2",
              description = "leaver, still-here or unknown")
          String decision) {
    var one =
        main.service()
            .write(
                "PUT",
                PATH + "/%d/missing/%s".formatted(id, Service.encoded(key)),
                new MissingAnswer(decision),
                MissingView.class);
    main.output().one(one, () -> main.output().line("%s: %s.", one.displayName(), one.decision()));
  }
}
