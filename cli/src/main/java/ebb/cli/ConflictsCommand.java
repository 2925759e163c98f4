package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.ConflictChoice;
import ebb.api.ConflictChoiceView;
import ebb.api.ConflictView;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "conflicts",
    mixinStandardHelpOptions = true,
    description = "Where sources say different things of one person.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb conflicts list",
      "  ebb conflicts believe 12 title hr   remembered until one of them says something else"
    })
final class ConflictsCommand {
  private static final String PATH = "/api/v1/conflicts";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "Those nobody has looked at.")
  void list(@Option(names = "--limit", defaultValue = "100") int limit) {
    main.output()
        .list(
            main.service().list(PATH, ConflictView.class, limit),
            "All sources agree, or somebody said whom to believe.",
            List.of(
                column("PERSON", ConflictView::person),
                column("NAME", ConflictView::displayName),
                column("ATTRIBUTE", ConflictView::attribute),
                column("HOLDS", one -> "%s, by %s".formatted(one.value(), one.holds())),
                column(
                    "SAID",
                    one ->
                        one.said().stream()
                            .map(said -> "%s: %s".formatted(said.source(), said.value()))
                            .collect(Collectors.joining("; ")))));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say whom to believe; shows what follows where another value holds now.")
  void believe(
      @Parameters(paramLabel = "PERSON", index = "0") long person,
      @Parameters(paramLabel = "ATTRIBUTE", index = "1") String attribute,
      @Parameters(paramLabel = "SOURCE", index = "2") String source,
      @Option(names = "--until", description = "the last day it holds; default for good")
          LocalDate until,
      @Option(names = "--release", description = "release what follows at once") boolean release) {
    var chosen =
        main.service()
            .write(
                "PUT",
                PATH + "/%d/%s".formatted(person, Service.encoded(attribute)),
                new ConflictChoice(source, until),
                ConflictChoiceView.class);
    if (chosen.changeSet() == null) {
      main.output()
          .one(chosen, () -> main.output().line("It holds already. Nobody is asked again."));
    } else {
      var set =
          main.service().get("/api/v1/change-sets/" + chosen.changeSet(), ChangeSetView.class);
      new Sets(main).shown(set, release);
    }
  }
}
