package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.ImportView;
import ebb.api.MissingAnswer;
import ebb.api.MissingView;
import ebb.api.RowAnswer;
import ebb.api.RowView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "imports",
    mixinStandardHelpOptions = true,
    description = "Bring files in: read, checked, matched and shown before anything is written.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb imports add hr.csv --source hr --complete",
      "  ebb imports rows 2 --verdict refused",
      "  ebb imports answer 2 417 same:31",
      "  ebb imports decide 2 4711 leaver"
    })
final class ImportsCommand {
  private static final String PATH = "/api/v1/imports";
  private static final int PROBLEMS_SHOWN = 20;

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = "Bring a CSV file in and show what it would do.")
  void add(
      @Parameters(paramLabel = "FILE") Path file,
      @Option(names = "--source", required = true, description = "whose mapping is used")
          String source,
      @Option(names = "--complete", description = "people it does not name are missing")
          boolean complete)
      throws IOException {
    if (!Files.isRegularFile(file)) {
      throw new Failure("There is no file " + file + ".", "It cannot be read.", "Check the path.");
    }
    var made =
        main.service()
            .upload(
                PATH
                    + "?source=%s&file=%s&complete=%s"
                        .formatted(
                            Service.encoded(source),
                            Service.encoded(file.getFileName().toString()),
                            complete),
                file,
                ImportView.class);
    showWhole(made);
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
              "Import %d: %s%s",
              made.id(), made.file(), made.complete() ? ", declared complete" : "");
          out.line("  %s", counts(made));
          problems(made.id());
          setAside(made.id());
          missing(made.id());
          new Sets(main).show(set(made.changeSet()));
        });
  }

  private ChangeSetView set(long id) {
    return main.service().get("/api/v1/change-sets/" + id, ChangeSetView.class);
  }

  private static String counts(ImportView made) {
    return made.counts().entrySet().stream()
        .filter(count -> count.getValue() > 0)
        .map(count -> count.getValue() + " " + count.getKey())
        .collect(Collectors.joining(", "));
  }

  private void problems(long id) {
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
              (person, reasons) ->
                  main.output()
                      .line(
                          "             may be person %d: %s", person, String.join(", ", reasons)));
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
                column(
                    "WHAT",
                    row ->
                        row.problems().stream()
                            .map(p -> p.what() + " " + p.remedy())
                            .collect(Collectors.joining(" ")))));
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
