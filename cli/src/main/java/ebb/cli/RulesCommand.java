package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.ConditionRequest;
import ebb.api.ConditionView;
import ebb.api.MatchView;
import ebb.api.RuleView;
import ebb.api.RuleView.BoundView;
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
  private static final String CONDITIONS = "/api/v1/conditions";
  private static final String EXPECT =
      "for how many people something should change; if it is others, the set is stopped";

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
                column("WHO", RuleView::sentence),
                column("GROUPS", rule -> String.join(", ", rule.groups())),
                column("LEAD DAYS", RuleView::leadDays),
                column("EDIT WAITS IN", rule -> rule.waitsIn() == null ? "" : rule.waitsIn())));
  }

  @Command(mixinStandardHelpOptions = true, description = "One rule.")
  void show(@Parameters(paramLabel = "NAME") String name) {
    text(main.service().get(PATH + "/" + Service.encoded(name), RuleView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Show what follows from a rule in a JSON file; it comes into force with the release of"
              + " that.")
  void put(
      @Parameters(paramLabel = "NAME", index = "0") String name,
      @Parameters(paramLabel = "FILE", index = "1") Path file,
      @Option(names = "--expect", paramLabel = "PEOPLE", description = EXPECT) Long expected,
      @Option(names = "--release", description = "release at once") boolean release)
      throws IOException {
    var rule = Service.JSON.readTree(Files.readString(file));
    rehearsed(
        main.service().write("PUT", path(name, expected), rule, ChangeSetView.class), release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what follows without a rule; it goes with the release of that.")
  void remove(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--expect", paramLabel = "PEOPLE", description = EXPECT) Long expected,
      @Option(names = "--release", description = "release at once") boolean release) {
    rehearsed(
        main.service().write("DELETE", path(name, expected), null, ChangeSetView.class), release);
  }

  private void rehearsed(ChangeSetView set, boolean release) {
    new Sets(main).shown(set, release);
  }

  private static String path(String name, Long expected) {
    return PATH + "/" + Service.encoded(name) + (expected == null ? "" : "?expected=" + expected);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "For whom a condition holds today; nothing is kept.")
  void match(@Parameters(paramLabel = "CEL") String cel) {
    var condition =
        main.service()
            .post(CONDITIONS + "/read", new ConditionRequest(cel, null, null), ConditionView.class);
    var all = matched(cel, null);
    for (var part = all; part.next() != null; ) {
      part = matched(cel, part.next());
      all = all.and(part);
    }
    var found = all;
    var out = main.output();
    out.one(
        found,
        () -> {
          out.line("%s: %d of %d", condition.sentence(), found.matching(), found.looked());
          found
              .first()
              .forEach(
                  one ->
                      out.line(
                          "  %-6d %s%s",
                          one.id(),
                          one.displayName(),
                          one.department() == null ? "" : ", " + one.department()));
          if (found.matching() > found.first().size()) {
            out.line("  and %d more", found.matching() - found.first().size());
          }
          if (found.failing() > 0) {
            out.line(
                "It cannot be computed for %d of them, who count as not meant: %s",
                found.failing(), found.failure());
          }
        });
  }

  private MatchView matched(String cel, Long after) {
    return main.service()
        .post(CONDITIONS + "/match", new ConditionRequest(cel, null, after), MatchView.class);
  }

  /** As in "14 days before startDate". */
  private static String words(BoundView bound) {
    var from = bound.attribute() == null ? bound.day().toString() : bound.attribute();
    var days = Math.abs(bound.days());
    var so = days == 1 ? "1 day" : days + " days";
    return bound.days() == 0 ? from : so + (bound.days() < 0 ? " before " : " after ") + from;
  }

  private void text(RuleView rule) {
    var out = main.output();
    out.one(
        rule,
        () -> {
          out.line("Rule %s gives accounts in %s", rule.name(), rule.application());
          out.line("  who       %s", rule.sentence());
          out.line("            %s", rule.condition());
          rule.values().forEach((attribute, mapping) -> out.line("  %-22s %s", attribute, mapping));
          rule.references()
              .forEach(
                  (attribute, from) ->
                      out.line("  %-22s the account of their %s", attribute, from));
          if (!rule.groups().isEmpty()) {
            out.line("  groups    %s", String.join(", ", rule.groups()));
          }
          rule.seats()
              .forEach(
                  one ->
                      out.line(
                          "  seat      %s%s",
                          one.seat(), one.condition() == null ? "" : "  where " + one.condition()));
          if (rule.from() != null) {
            out.line("  from      %s", words(rule.from()));
          }
          if (rule.until() != null) {
            out.line("  until     %s", words(rule.until()));
          }
          out.line("  prepared  %d days before the first day", rule.leadDays());
          if (rule.byItself() != null) {
            out.line("  by itself %,d people a day; more wait for a release", rule.byItself());
          }
          rule.notes().forEach(out::line);
          if (rule.waitsIn() != null) {
            out.line("An edit of it waits: ebb changes show %d", rule.waitsIn());
          }
        });
  }
}
