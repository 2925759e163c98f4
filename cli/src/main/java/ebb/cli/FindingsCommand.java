package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.DifferenceView;
import ebb.api.FindingCountView;
import ebb.api.FindingView;
import ebb.api.FindingsView;
import ebb.api.LeftOutView;
import ebb.api.Listing;
import ebb.api.QuarrelView;
import ebb.api.SettleRequest;
import ebb.api.SettledView;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "findings",
    mixinStandardHelpOptions = true,
    description = "In what applications and Ebb do not agree, and what is done about it.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb findings list directory",
      "  ebb findings show directory on-there",
      "  ebb findings put-right directory on-there",
      "  ebb findings adopt directory unmatched --as guest",
      "  ebb findings leave-alone directory unmatched 4711 4712 --reason \"run the backups\""
    })
final class FindingsCommand {
  private static final String PATH = "/api/v1/applications/";

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = "What is found in an application, by kind, the most urgent first.")
  void list(@Parameters(paramLabel = "NAME") String name) {
    var out = main.output();
    var found = main.service().get(path(name), FindingsView.class);
    out.one(
        found,
        () -> {
          if (found.syncedAt() == null) {
            out.line("%s was never read. Begin with: ebb applications sync %1$s", name);
          } else if (found.kinds().isEmpty()) {
            out.line(
                "%s agrees with Ebb, as of %s.", found.application(), Text.time(found.syncedAt()));
          } else {
            out.table(
                Listing.whole(found.kinds()),
                "",
                List.of(
                    column("KIND", FindingCountView::kind),
                    column("HOW MANY", FindingCountView::count),
                    column("ACCOUNTS", FindingCountView::words)));
            out.line("  Look at one kind: ebb findings show %s KIND", name);
          }
          for (var quarrel : found.quarrels()) {
            out.line("  %s", words(quarrel));
          }
        });
  }

  private static String words(QuarrelView quarrel) {
    return "Somebody else keeps writing %s of %s (%d): it came back %d times."
        .formatted(quarrel.attribute(), quarrel.displayName(), quarrel.person(), quarrel.times());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Findings of one kind: what differs, and whose an account may be.")
  void show(
      @Parameters(paramLabel = "NAME") String name,
      @Parameters(paramLabel = "KIND") String kind,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service().list(path(name) + "/" + kind, FindingView.class, limit),
            "Nothing of that kind is found in %s.".formatted(name),
            List.of(
                column("ID", FindingView::id),
                column("ACCOUNT", one -> one.account() == null ? "" : one.account().name()),
                column("PERSON", one -> one.displayName() == null ? "" : one.displayName()),
                column("WHAT", FindingsCommand::what),
                column("SINCE", one -> Text.time(one.since()))));
  }

  private static String what(FindingView one) {
    if (!one.differences().isEmpty()) {
      return one.differences().stream()
          .map(FindingsCommand::words)
          .collect(Collectors.joining("; "));
    }
    if (one.account() != null && one.account().leftAlone() != null) {
      return one.account().leftAlone().why();
    }
    return one.likely().stream()
        .map(
            like ->
                "like %s (%d): %s%s"
                    .formatted(
                        like.displayName(),
                        like.person(),
                        String.join(", ", like.why()),
                        like.account() == null ? "" : ", who has " + like.accountName()))
        .collect(Collectors.joining("; "));
  }

  private static String words(DifferenceView one) {
    return "%s is %s, should be %s%s"
        .formatted(
            one.what(),
            one.there().isEmpty() ? "empty" : one.there(),
            one.here().isEmpty() ? "empty" : one.here(),
            one.times() == 0 ? "" : " (came back %d times)".formatted(one.times()));
  }

  /** Which findings of a kind. */
  static final class Which {
    @Parameters(index = "0", paramLabel = "NAME")
    String name;

    @Parameters(index = "1", paramLabel = "KIND")
    String kind;

    @Parameters(
        index = "2..*",
        paramLabel = "ID",
        description = "as show gives them; all of the kind where none is given")
    Set<Long> ids;
  }

  @Command(
      name = "put-right",
      mixinStandardHelpOptions = true,
      description = "Show what makes accounts there as they should be; nothing is written yet.")
  void putRight(@Mixin Which which) {
    settle(which, "put-right", new SettleRequest(which.ids, null, null, null, false));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what follows if values there become the people's.")
  void take(
      @Mixin Which which,
      @Option(names = "--attribute", required = true, description = "as rules call it; repeatable")
          Set<String> attributes) {
    settle(which, "take", new SettleRequest(which.ids, null, attributes, null, false));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what follows if doubtful accounts become those of the likeliest people.")
  void link(@Mixin Which which) {
    settle(which, "link", new SettleRequest(which.ids, null, null, null, false));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what follows if accounts of nobody become people of their own.")
  void adopt(
      @Mixin Which which,
      @Option(names = "--as", description = "their userType, as in guest") String userType,
      @Option(names = "--suspended", description = "switch them off, until somebody knows them")
          boolean suspended) {
    settle(which, "adopt", new SettleRequest(which.ids, null, null, userType, suspended));
  }

  @Command(
      name = "leave-alone",
      mixinStandardHelpOptions = true,
      description = "Leave accounts as they are, from now on.")
  void leaveAlone(
      @Mixin Which which,
      @Option(
              names = "--reason",
              required = true,
              description = "kept with them, and in the journal")
          String reason) {
    settle(which, "leave-alone", new SettleRequest(which.ids, reason, null, null, false));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Keep accounts that were left alone as they should be, again.")
  void keep(@Mixin Which which) {
    settle(which, "keep", new SettleRequest(which.ids, null, null, null, false));
  }

  private void settle(Which which, String act, SettleRequest request) {
    var out = main.output();
    var settled =
        main.service()
            .post(path(which.name) + "/" + which.kind + "/" + act, request, SettledView.class);
    out.one(
        settled,
        () -> {
          out.line(
              "%s: %d of what is %s in %s%s",
              act,
              settled.settled(),
              which.kind,
              which.name,
              settled.leftOut() == 0 ? "" : "; %d left out".formatted(settled.leftOut()));
          for (LeftOutView one : settled.examples()) {
            out.line("  %s: %s %s", one.name(), one.problem().what(), one.problem().remedy());
          }
          if (settled.changeSet() != null) {
            out.line("  See what follows: ebb changes show %d --all", settled.changeSet());
            out.line("  Let it through:   ebb changes release %d", settled.changeSet());
          }
        });
  }

  private static String path(String name) {
    return PATH + Service.encoded(name) + "/findings";
  }
}
