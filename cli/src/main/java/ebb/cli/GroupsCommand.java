package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.EarlierItemsView;
import ebb.api.EarlierItemsView.StraysView;
import ebb.api.GroupMarkEdit;
import ebb.api.GroupMarkView;
import ebb.api.GroupReachView;
import ebb.api.HolderView;
import ebb.api.NamedGroupView;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "groups",
    mixinStandardHelpOptions = true,
    description = "Groups across applications: those of one name are one. Who is in them, and why.")
final class GroupsCommand {
  private static final String PATH = "/api/v1/groups";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All groups in which anybody is.")
  void list(
      @Option(names = "--empty", description = "those in which nobody is, which may be dead")
          boolean empty) {
    main.output()
        .list(
            main.service().list(PATH + (empty ? "?empty=true" : ""), NamedGroupView.class, 10_000),
            empty
                ? "Somebody is in every group that was seen."
                : "Nobody was seen in a group. Groups come with a sync: ebb applications sync NAME",
            List.of(
                column("GROUP", NamedGroupView::name),
                column("IN", group -> String.join(", ", group.applications())),
                column("ACCOUNTS", NamedGroupView::accounts),
                column("PUT THERE BY EBB", NamedGroupView::given),
                column("RULES", group -> String.join(", ", group.rules())),
                column("RISK", NamedGroupView::risk),
                column("OPENS", NamedGroupView::scope),
                column("AT MOST", NamedGroupView::most)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Say how much harm a group lets one do, what it opens, and in how many accounts in use it"
              + " may be in one application; nothing said takes it back.",
      footer = "%n  ebb groups mark admins --risk full --opens 'everything there' --most 3")
  void mark(
      @Parameters(paramLabel = "GROUP") String group,
      @Option(names = "--risk", description = "low, high, or full: can give themselves anything")
          String risk,
      @Option(names = "--opens", description = "in words") String scope,
      @Option(names = "--most", description = "accounts in use; more stand in Now") Integer most,
      @Option(names = "--reason", description = "goes into the journal") String reason) {
    var mark =
        main.service()
            .write(
                "PUT",
                "/api/v1/group-marks/" + Service.encoded(group),
                new GroupMarkEdit(risk, scope, most, reason),
                GroupMarkView.class);
    main.output()
        .one(
            mark,
            () ->
                main.output()
                    .line(
                        "%s: risk %s, opens %s, at most %s in use",
                        mark.name(),
                        Text.orDash(mark.risk()),
                        Text.orDash(mark.scope()),
                        mark.most() == null ? "any number" : mark.most()));
  }

  @Command(
      name = "earlier-items",
      mixinStandardHelpOptions = true,
      description =
          "What was made for a group earlier, as meetings with everybody of it, and does not follow"
              + " it: who came later is not in it, who left still is.",
      footer = "%n  ebb groups earlier-items watch --catch-up --release")
  void earlierItems(
      @Parameters(paramLabel = "GROUP") String group,
      @Option(
              names = "--catch-up",
              description = "propose that all of it says of everybody what the group says now")
          boolean catchUp,
      @Option(names = "--release", description = "and let that through") boolean release) {
    if (catchUp) {
      var set =
          main.service()
              .write(
                  "POST",
                  PATH + "/earlier-items/catch-up?group=" + Service.encoded(group),
                  Map.of(),
                  ChangeSetView.class);
      new Sets(main).shown(set, release);
      return;
    }
    var found =
        main.service()
            .get(PATH + "/earlier-items?group=" + Service.encoded(group), EarlierItemsView.class);
    main.output().one(found, () -> found.applications().forEach(this::strays));
    if (main.output().isForPeople() && found.applications().isEmpty()) {
      main.output().line("No application that has %s can say what was made for it earlier.", group);
    }
  }

  private void strays(StraysView strays) {
    if (strays.problem() != null) {
      main.output().line("%s: not known. %s", strays.application(), strays.problem().what());
      return;
    }
    main.output().line("%s: %s", strays.application(), said(strays));
    for (var stray : strays.strays()) {
      main.output()
          .line(
              "  %s %s %s %s",
              stray.kind(),
              stray.name(),
              stray.named() ? "still names" : "lacks",
              stray.displayName() == null
                  ? stray.account() + ", nobody's account"
                  : stray.displayName());
    }
  }

  private static String said(StraysView strays) {
    return strays.strays().isEmpty()
        ? "all that was made earlier follows"
        : "%s%d differ from who is in the group"
            .formatted(strays.more() ? "more than " : "", strays.strays().size());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Who is in a group, in whichever application, and on which ground.")
  void holders(@Parameters(paramLabel = "GROUP") String group) {
    main.output()
        .list(
            main.service()
                .list(PATH + "/holders?group=" + Service.encoded(group), HolderView.class, 100_000),
            "Nobody is in it.",
            List.of(
                column("PERSON", HolderView::person),
                column("NAME", HolderView::displayName),
                column("UNIT", one -> one.department() == null ? "" : one.department()),
                column("IN", HolderView::application),
                column("ACCOUNT", HolderView::account),
                column("LEVEL", HolderView::level),
                column("THROUGH", HolderView::through),
                column("BECAUSE OF", one -> one.ground() == null ? "found there" : one.ground())));
    if (main.output().isForPeople()) {
      var reached =
          main.service().get(PATH + "/reach?group=" + Service.encoded(group), GroupReachView.class);
      main.output()
          .line(
              "%d accounts, %d in use; %d people of %d units",
              reached.accounts(), reached.inUse(), reached.people(), reached.units());
    }
  }
}
