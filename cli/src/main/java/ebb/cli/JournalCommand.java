package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.JournalEntryView;
import ebb.api.VerificationView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.ExitCode;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "journal",
    mixinStandardHelpOptions = true,
    description = "Who did what to which account.")
final class JournalCommand {
  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "Entries, newest first.")
  void list(
      @Option(names = "--person", description = "only about this person") Long person,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    "/api/v1/journal" + (person == null ? "" : "?person=" + person),
                    JournalEntryView.class,
                    limit),
            "The journal is empty.",
            List.of(
                column("ID", JournalEntryView::id),
                column("WHEN", entry -> Text.time(entry.at())),
                column("WHO", JournalEntryView::actor),
                column("DID", JournalEntryView::act),
                column("PERSON", JournalEntryView::person),
                column("REASON", JournalEntryView::reason)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Check that nothing was altered, taken out or put in.")
  int verify() {
    var found = main.service().get("/api/v1/journal/verification", VerificationView.class);
    var out = main.output();
    out.one(
        found,
        () -> {
          found.faults().forEach(fault -> out.line("BROKEN  %s", fault));
          out.line(
              found.faults().isEmpty()
                  ? "The journal is whole: %d entries, last seal %s"
                  : "The journal is not whole: %d entries, last seal %s",
              found.entries(),
              found.seal());
        });
    return found.faults().isEmpty() ? ExitCode.OK : ExitCode.SOFTWARE;
  }
}
