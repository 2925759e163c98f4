package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.RuleView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "rules",
    mixinStandardHelpOptions = true,
    description = "Who gets an account where, and how it is filled.",
    footerHeading = "%nExample:%n",
    footer = {
      "  ebb rules show everyone-in-directory -o json > rule.json",
      "  ebb rules put everyone-in-directory rule.json"
    })
final class RulesCommand {
  private static final String PATH = "/api/v1/rules";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All rules.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, RuleView.class, 1000),
            "There is no rule yet. Write one and keep it: ebb rules put NAME FILE",
            List.of(
                column("NAME", RuleView::name),
                column("APPLICATION", RuleView::application),
                column("WHO", RuleView::condition),
                column("GROUPS", rule -> String.join(", ", rule.groups())),
                column("LEAD DAYS", RuleView::leadDays)));
  }

  @Command(mixinStandardHelpOptions = true, description = "One rule.")
  void show(@Parameters(paramLabel = "NAME") String name) {
    text(main.service().get(PATH + "/" + Service.encoded(name), RuleView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Keep a rule from a JSON file; what follows is shown as a change set.")
  void put(
      @Parameters(paramLabel = "NAME", index = "0") String name,
      @Parameters(paramLabel = "FILE", index = "1") Path file)
      throws IOException {
    var rule = Service.JSON.readTree(Files.readString(file));
    text(main.service().write("PUT", PATH + "/" + Service.encoded(name), rule, RuleView.class));
  }

  private void text(RuleView rule) {
    var out = main.output();
    out.one(
        rule,
        () -> {
          out.line("Rule %s gives accounts in %s", rule.name(), rule.application());
          out.line("  who       %s", rule.condition());
          rule.values().forEach((attribute, mapping) -> out.line("  %-22s %s", attribute, mapping));
          rule.references()
              .forEach(
                  (attribute, from) ->
                      out.line("  %-22s the account of their %s", attribute, from));
          if (!rule.groups().isEmpty()) {
            out.line("  groups    %s", String.join(", ", rule.groups()));
          }
          if (rule.seat() != null) {
            out.line("  seat      %s", rule.seat());
          }
          out.line("  prepared  %d days before the first day", rule.leadDays());
        });
  }
}
