package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.HolderView;
import ebb.api.NamedGroupView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "groups",
    mixinStandardHelpOptions = true,
    description = "Groups across applications: those of one name are one. Who is in them, and why.")
final class GroupsCommand {
  private static final String PATH = "/api/v1/groups";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All groups in which anybody is.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, NamedGroupView.class, 10_000),
            "Nobody was seen in a group. Groups come with a sync: ebb applications sync NAME",
            List.of(
                column("GROUP", NamedGroupView::name),
                column("IN", group -> String.join(", ", group.applications())),
                column("ACCOUNTS", NamedGroupView::accounts),
                column("PUT THERE BY EBB", NamedGroupView::given),
                column("RULES", group -> String.join(", ", group.rules()))));
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
                column("BECAUSE OF", one -> one.ground() == null ? "found there" : one.ground())));
  }
}
