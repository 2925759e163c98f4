package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.RetirementView;
import ebb.api.SourceView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "sources",
    mixinStandardHelpOptions = true,
    description = "Where people come from, and how columns fill attributes.")
final class SourcesCommand {
  private static final String PATH = "/api/v1/sources";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All sources, strongest first.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, SourceView.class, 1000),
            "There is no source yet.",
            List.of(
                column("NAME", SourceView::name),
                column("RANK", SourceView::rank),
                column("KEY", SourceView::key),
                column("COLUMNS", source -> source.columns().size())));
  }

  @Command(mixinStandardHelpOptions = true, description = "One source with its mapping.")
  void show(@Parameters(paramLabel = "NAME") String name) {
    text(main.service().get(PATH + "/" + Service.encoded(name), SourceView.class));
  }

  @Command(mixinStandardHelpOptions = true, description = "Keep a mapping from a JSON file.")
  void put(
      @Parameters(paramLabel = "NAME", index = "0") String name,
      @Parameters(paramLabel = "FILE", index = "1") Path file)
      throws IOException {
    var source = Service.JSON.readTree(Files.readString(file));
    text(main.service().write("PUT", PATH + "/" + Service.encoded(name), source, SourceView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What would become of what a source says, if it said nothing any more.",
      footer = "%nTake all of it away: ebb sources retire NAME")
  void retirement(@Parameters(paramLabel = "NAME") String name) {
    var out = main.output();
    var found =
        main.service()
            .get(PATH + "/" + Service.encoded(name) + "/retirement", RetirementView.class);
    out.one(
        found,
        () -> {
          out.line(
              "%s knows %s%,d people; of %,d nobody else says anything: they would have left.",
              name, found.isWhole() ? "" : "more than ", found.people(), found.alone());
          found
              .fallbacks()
              .forEach(
                  one ->
                      out.line(
                          "  %-20s %,8d people: %s",
                          one.attribute(),
                          one.people(),
                          one.to() == null
                              ? "nobody would say anything of it"
                              : "falls to %s, another value for %,d"
                                  .formatted(one.to(), one.others())));
        });
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Take away all that a source says; shows what follows.")
  void retire(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .post(
                    PATH + "/" + Service.encoded(name) + "/retirement", null, ChangeSetView.class),
            release);
  }

  private void text(SourceView source) {
    var out = main.output();
    out.one(
        source,
        () -> {
          out.line("Source %s, rank %d", source.name(), source.rank());
          out.line("  %-24s the key", Text.orDash(source.key()));
          source
              .columns()
              .forEach((heading, attribute) -> out.line("  %-24s %s", heading, attribute));
          source.ignored().forEach(heading -> out.line("  %-24s ignored", heading));
          out.line("  dates are written %s", Text.orDash(source.dateFormat()));
        });
  }
}
