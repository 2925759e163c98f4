package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.DormantView;
import ebb.api.Listing;
import ebb.api.OffView;
import ebb.api.RemovalRequest;
import ebb.api.RemovalView;
import ebb.api.StillNeededRequest;
import ebb.api.StillNeededView;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;
import picocli.CommandLine.Spec;
import tools.jackson.databind.JsonNode;

@Command(
    addMethodSubcommands = false,
    name = "dormant",
    mixinStandardHelpOptions = true,
    description = "Accounts that nobody signs in to: asked about, suspended, removed.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb dormant list mail-house",
      "  ebb dormant ask mail-house 12 17 --until 2027-01-15",
      "  ebb dormant off mail-house",
      "  ebb dormant remove mail-house --all --first 5 --reason \"a quarter unused\""
    })
final class DormantCommand {
  private static final String PATH = "/api/v1/applications/";

  @ParentCommand private Main main;
  @Spec private CommandSpec spec;

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Accounts in use into which their owners have not signed in for long, the longest first.")
  void list(
      @Parameters(paramLabel = "APPLICATION") String name,
      @Option(names = "--days", description = "for how many; default as set, or 90") Integer days,
      @Option(names = "--look", description = "have the application asked anew first") boolean look,
      @Option(names = "--limit", defaultValue = "200") int limit) {
    var path = path(name) + "/dormant";
    if (look) {
      main.service().post(path + "/look", null, JsonNode.class);
    }
    main.output()
        .list(
            main.service()
                .list(path + (days == null ? "" : "?days=" + days), DormantView.class, limit),
            "Of no account is it known that nobody has signed in for so long; where nobody ever did, days"
                + " count from when the application was first asked.",
            List.of(
                column("ID", DormantView::account),
                column("ACCOUNT", DormantView::name),
                column("PERSON", one -> Text.orDash(one.person())),
                column("NAME", one -> Text.orDash(one.displayName())),
                column(
                    "LAST SIGN-IN",
                    one -> one.signedInAt() == null ? "never" : Text.time(one.signedInAt())),
                column("DAYS", DormantView::days),
                column("SEATS", one -> String.join(", ", one.seats())),
                column("STAYS, OR IS ASKED ABOUT", DormantCommand::standing)));
  }

  private static String standing(DormantView one) {
    if (one.exempt() != null) {
      return one.exempt();
    }
    return one.stillNeeded() == null ? "" : one.stillNeeded();
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Ask their owners whether accounts are still needed. What is not answered is suspended.")
  void ask(
      @Parameters(paramLabel = "APPLICATION") String name,
      @Parameters(paramLabel = "ID", arity = "1..*", description = "as dormant list shows them")
          List<Long> accounts,
      @Option(
              names = "--until",
              required = true,
              paramLabel = "DAY",
              description = "the last day for an answer; on the day after, silence suspends")
          LocalDate until,
      @Option(names = "--of-managers", description = "ask managers, not the owners themselves")
          boolean ofManagers) {
    var result =
        main.service()
            .post(
                path(name) + "/dormant/asks",
                new StillNeededRequest(accounts, until, ofManagers),
                StillNeededView.class);
    var out = main.output();
    out.one(
        result,
        () -> {
          out.line("%d asked; what is not answered by %s is suspended.", result.asked(), until);
          result
              .notAsked()
              .forEach(
                  one ->
                      out.line(
                          "  not asked about %d, %s: %s", one.account(), one.name(), one.why()));
        });
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Accounts that are off, each with what is against its removal.")
  void off(
      @Parameters(paramLabel = "APPLICATION") String name,
      @Option(names = "--limit", defaultValue = "200") int limit) {
    offs(
        main.service().list(path(name) + "/off", OffView.class, limit).items(),
        "No account is suspended there.");
  }

  private void offs(List<OffView> all, String none) {
    main.output()
        .list(
            Listing.whole(all),
            none,
            List.of(
                column("ID", OffView::account),
                column("ACCOUNT", OffView::name),
                column("NAME", one -> Text.orDash(one.displayName())),
                column("OFF SINCE", one -> one.since() == null ? "not known" : one.since()),
                column("BY", one -> Text.orDash(one.why())),
                column("SEATS", one -> String.join(", ", one.seats())),
                column("REMOVAL", one -> one.against() == null ? "may begin" : one.against())));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Begin the removal of accounts that are off. Each is tested; what it owns is handed over"
              + " and nothing may refer to it before it is deleted.")
  void remove(
      @Parameters(paramLabel = "APPLICATION") String name,
      @Parameters(paramLabel = "ID", arity = "0..*", description = "as dormant off shows them")
          List<Long> accounts,
      @Option(names = "--all", description = "all that may be removed") boolean all,
      @Option(
              names = "--first",
              paramLabel = "COUNT",
              description = "only so many of them; look, then the rest")
          Integer first,
      @Option(names = "--reason", required = true) String reason) {
    var chosen = accounts == null ? new ArrayList<Long>() : accounts;
    if (all == !chosen.isEmpty()) {
      throw new ParameterException(
          spec.commandLine(), "Name accounts by their numbers, or say --all.");
    }
    var result =
        main.service()
            .post(
                path(name) + "/removals",
                new RemovalRequest(chosen, first, reason),
                RemovalView.class);
    var out = main.output();
    out.one(
        result,
        () -> {
          out.line(
              "The removal of %d began%s. See: ebb departures list --state running",
              result.begun().size(),
              result.left() == 0 ? "" : "; %d more may begin".formatted(result.left()));
          result.begun().forEach(one -> out.line("  %d, %s", one.account(), one.name()));
          result
              .refused()
              .forEach(
                  one ->
                      out.line("  refused %d, %s: %s", one.account(), one.name(), one.against()));
        });
  }

  private static String path(String application) {
    return PATH + Service.encoded(application);
  }
}
