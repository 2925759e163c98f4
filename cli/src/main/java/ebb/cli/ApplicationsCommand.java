package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AccountView;
import ebb.api.AppGroupView;
import ebb.api.ApplicationEdit;
import ebb.api.ApplicationView;
import ebb.api.GroupRequest;
import ebb.api.InspectionView;
import ebb.api.PauseRequest;
import ebb.api.SeatView;
import ebb.api.SettledView;
import ebb.api.SyncRunView;
import ebb.api.SyncView;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "applications",
    mixinStandardHelpOptions = true,
    description = "Connected applications: how they are, and whether they agree with us.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb applications connect directory --kind ldap --set host=localhost --set port=389 \\",
      "      --set bindDn=cn=ebb,dc=skerrow,dc=example --set people=ou=people,dc=skerrow,dc=example \\",
      "      --secret-file directory.password",
      "  ebb applications sync directory"
    })
final class ApplicationsCommand {
  private static final String PATH = "/api/v1/applications";

  private static final int MOST_SEATS = 100;
  private static final int COUNTED = 1_000;

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All applications.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, ApplicationView.class, 1000),
            "No application is connected. Begin with: ebb applications connect NAME --kind KIND",
            List.of(
                column("NAME", ApplicationView::name),
                column("KIND", ApplicationView::kind),
                column("ACCOUNTS", one -> accounts(one)),
                column("HEALTH", one -> one.problem() == null ? "well" : one.problem().what()),
                column(
                    "LAST SYNC",
                    one -> one.syncedAt() == null ? "never" : Text.time(one.syncedAt()))));
  }

  private static String accounts(ApplicationView application) {
    return application.accounts().entrySet().stream()
        .map(count -> count.getValue() + " " + count.getKey())
        .collect(Collectors.joining(", "));
  }

  /** What an application is connected by. */
  private static final class Connection {
    @Parameters(paramLabel = "NAME")
    private String name;

    @Option(names = "--kind", required = true, description = "scim or ldap")
    private String kind;

    @Option(
        names = "--set",
        description = "a setting, as in --set address=https://house.example/scim/v2")
    private Map<String, String> settings;

    @Option(
        names = "--set-file",
        description = "a setting from a file, as in --set-file trusted=ca.pem")
    private Map<String, Path> settingFiles;

    @Option(names = "--secret-file", description = "file that holds the password or token")
    private Path token;

    @Option(
        names = "--secret",
        description = "another secret from a file, as in --secret key=ebb.key")
    private Map<String, Path> secretFiles;

    ApplicationEdit edit() throws IOException {
      var all = new TreeMap<>(settings == null ? Map.<String, String>of() : settings);
      all.putAll(texts(settingFiles));
      var secrets = new TreeMap<>(texts(secretFiles));
      if (token != null) {
        secrets.put("token", Files.readString(token).strip());
      }
      return new ApplicationEdit(kind, all, secrets.isEmpty() ? null : secrets);
    }

    private static Map<String, String> texts(Map<String, Path> files) throws IOException {
      var texts = new TreeMap<String, String>();
      for (var file : files == null ? Map.<String, Path>of().entrySet() : files.entrySet()) {
        texts.put(file.getKey(), Files.readString(file.getValue()).strip());
      }
      return texts;
    }
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Connect an application, or change how. It is tried, and nothing is written there.")
  void connect(@Mixin Connection connection) throws IOException {
    text(
        main.service()
            .write("PUT", path(connection.name), connection.edit(), ApplicationView.class));
  }

  @Command(
      name = "try",
      mixinStandardHelpOptions = true,
      description = "Look at an application before it is connected. Nothing is kept or written.")
  void tryOut(@Mixin Connection connection) throws IOException {
    inspection(
        connection.name,
        main.service()
            .post(path(connection.name) + "/try", connection.edit(), InspectionView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Look at a connected application: what it can do, and what Ebb may do there."
              + " Nothing is written there.")
  void inspect(@Parameters(paramLabel = "NAME") String name) {
    inspection(name, main.service().post(path(name) + "/inspect", null, InspectionView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "How many seats an application has, and how many are taken.")
  void seats(@Parameters(paramLabel = "NAME") String name) {
    main.output()
        .list(
            main.service().list(path(name) + "/seats", SeatView.class, MOST_SEATS),
            "%s cannot say how many seats there are.".formatted(name),
            List.of(
                column("SEAT", SeatView::id),
                column("NAME", SeatView::name),
                column("TAKEN", SeatView::taken),
                column("THERE ARE", one -> one.total() == null ? "no limit" : one.total()),
                column("LEFT", one -> one.total() == null ? "" : one.total() - one.taken()),
                column("TAKEN BY SUSPENDED", SeatView::off),
                column("A MONTH", one -> cost(one, one.taken())),
                column("OF IT FOR SUSPENDED", one -> cost(one, one.off()))));
  }

  private static String cost(SeatView seat, long count) {
    return seat.price() == null
        ? ""
        : "%,.2f %s"
            .formatted(
                seat.price().amount().multiply(BigDecimal.valueOf(count)), seat.price().currency());
  }

  private void inspection(String name, InspectionView found) {
    var out = main.output();
    out.one(
        found,
        () -> {
          out.line("%s, looked at without writing anything. Ebb can", name);
          found
              .tried()
              .forEach(
                  one -> {
                    out.line("  %-4s %s", one.problem() == null ? "yes" : "NO", one.what());
                    if (one.problem() != null) {
                      out.line("       %s %s", one.problem().what(), one.problem().remedy());
                      out.line("       Until then: %s.", one.without());
                    }
                  });
          out.line("The application offers");
          found
              .parts()
              .forEach(
                  part ->
                      out.line(
                          "  %-4s %-12s %s",
                          part.isOffered() ? "yes" : "no",
                          part.part(),
                          part.isOffered() ? "" : part.without()));
          if (found.aheadSeconds() != null && Math.abs(found.aheadSeconds()) > 1) {
            out.line(
                "  Its clock is %d seconds %s ours.",
                Math.abs(found.aheadSeconds()), found.aheadSeconds() > 0 ? "ahead of" : "behind");
          }
          out.line(
              "  %d attributes can be filled; a rule could begin with:", found.attributes().size());
          found.attributes().stream()
              .filter(one -> one.suggested() != null || one.isRequired())
              .forEach(
                  one ->
                      out.line(
                          "       %-24s %s%s",
                          one.name(),
                          one.suggested() == null ? "(nothing here is called so)" : one.suggested(),
                          one.isRequired() ? "   required" : ""));
        });
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Send nothing there until it is let go on; what is under way is finished.")
  void pause(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--why", required = true, description = "said to everybody") String why) {
    text(main.service().post(path(name) + "/pause", new PauseRequest(why), ApplicationView.class));
  }

  @Command(
      name = "go-on",
      mixinStandardHelpOptions = true,
      description = "Let the work on a paused application go on.")
  void goOn(@Parameters(paramLabel = "NAME") String name) {
    text(main.service().post(path(name) + "/go-on", null, ApplicationView.class));
  }

  private static String path(String name) {
    return PATH + "/" + Service.encoded(name);
  }

  @Command(mixinStandardHelpOptions = true, description = "One application.")
  void show(@Parameters(paramLabel = "NAME") String name) {
    text(main.service().get(PATH + "/" + Service.encoded(name), ApplicationView.class));
  }

  private void text(ApplicationView application) {
    var out = main.output();
    out.one(
        application,
        () -> {
          out.line("%s (%s)", application.name(), application.kind());
          application.settings().forEach((name, value) -> out.line("  %-18s %s", name, value));
          application.secrets().forEach(name -> out.line("  %-18s (kept secret)", name));
          out.line("  accounts           %s", Text.orDash(accounts(application)));
          if (application.paused() != null) {
            out.line(
                "  paused             by %s, %s: %s",
                application.paused().by(),
                Text.time(application.paused().at()),
                application.paused().why());
            out.line(
                "                     Go on with: ebb applications go-on %s", application.name());
          }
          if (application.problem() == null) {
            out.line("  health             well, tried %s", Text.time(application.checkedAt()));
          } else {
            out.line("  health             %s", application.problem().what());
            out.line(
                "                     %s %s",
                application.problem().why(), application.problem().remedy());
          }
        });
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Read an application, and propose to put right what drifted. Where it can say what"
              + " changed since the last time, only that is read.")
  void sync(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--everything", description = "read all, whatever changed")
          boolean everything) {
    var out = main.output();
    var found =
        main.service()
            .post(
                PATH + "/" + Service.encoded(name) + "/sync?everything=" + everything,
                null,
                SyncView.class);
    out.one(
        found,
        () -> {
          out.line(
              "%s: %d accounts %s%s, %d drifted, %d missing, %s of nobody known",
              found.application(),
              found.read(),
              found.everything() ? "read" : "changed and read",
              found.inStep() == null ? "" : ", %d in step".formatted(found.inStep()),
              found.drifted(),
              found.missing(),
              strangers(found));
          if (found.changeSet() != null) {
            out.line("  To put right what drifted: ebb changes show %d --all", found.changeSet());
          }
          if (found.drifted() + found.unmatched() > 0) {
            out.line("  By kind, with what can be done: ebb findings list %s", found.application());
          }
        });
  }

  private static String strangers(SyncView found) {
    return !found.everything() && found.unmatched() > COUNTED
        ? "more than " + COUNTED
        : Long.toString(found.unmatched());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "When an application was read, and what came of it; newest first.")
  void syncs(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--limit", defaultValue = "20") int limit) {
    main.output()
        .list(
            main.service()
                .list(PATH + "/" + Service.encoded(name) + "/syncs", SyncRunView.class, limit),
            "%s was never read. Begin with: ebb applications sync %s".formatted(name, name),
            List.of(
                column("BEGAN", run -> Text.time(run.begunAt())),
                column("BY", SyncRunView::by),
                column("READ", run -> run.read() + (run.everything() ? "" : " that changed")),
                column("CHANGED", SyncRunView::changed),
                column("NEW", SyncRunView::found),
                column("GONE", SyncRunView::missing),
                column("DRIFTED", SyncRunView::drifted),
                column("NOBODY'S", SyncRunView::unmatched),
                column("ENDED", ApplicationsCommand::ending)));
  }

  private static String ending(SyncRunView run) {
    if (run.problem() != null) {
      return run.problem().what();
    }
    return run.endedAt() == null ? "going on" : Text.time(run.endedAt());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Groups in an application, as they were when it was last read.")
  void groups(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(PATH + "/" + Service.encoded(name) + "/groups", AppGroupView.class, limit),
            "No groups were seen in %s.".formatted(name),
            List.of(
                column("NAME", AppGroupView::name),
                column("MEMBERS", AppGroupView::members),
                column("BY EBB", AppGroupView::given),
                column("MEANS", ApplicationsCommand::meaning),
                column("OWNERS", group -> String.join(", ", group.owners())),
                column("GROUPS WITHIN", group -> String.join(", ", group.inner())),
                column("NOBODY'S ACCOUNT", group -> String.join("; ", group.strangers()))));
  }

  private static String meaning(AppGroupView group) {
    if (group.leftAlone() != null) {
      return "nothing here: " + group.leftAlone().why();
    }
    if (!group.rules().isEmpty()) {
      return String.join(", ", group.rules());
    }
    return group.given() > 0 ? "granted" : "not known";
  }

  @Command(
      name = "keep-members",
      mixinStandardHelpOptions = true,
      description = "Show what follows if all who are in a group are given it, as found there.")
  void keepMembers(
      @Parameters(paramLabel = "NAME") String name,
      @Parameters(paramLabel = "GROUP") String group) {
    var out = main.output();
    var kept =
        main.service()
            .post(
                PATH + "/" + Service.encoded(name) + "/groups/keep-members",
                new GroupRequest(group, null),
                SettledView.class);
    out.one(
        kept,
        () -> {
          out.line(
              "%s in %s: %d members kept, %d of nobody left out",
              group, name, kept.settled(), kept.leftOut());
          if (kept.changeSet() != null) {
            out.line("  See what follows: ebb changes show %d --all", kept.changeSet());
            out.line("  Let it through:   ebb changes release %d", kept.changeSet());
          }
        });
  }

  @Command(
      name = "leave-group",
      mixinStandardHelpOptions = true,
      description =
          "Say that a group means nothing here; without a reason, that it does after all.")
  void leaveGroup(
      @Parameters(paramLabel = "NAME") String name,
      @Parameters(paramLabel = "GROUP") String group,
      @Option(names = "--reason") String reason) {
    main.service()
        .post(
            PATH + "/" + Service.encoded(name) + "/groups/leave-alone",
            new GroupRequest(group, reason),
            Void.class);
    main.output()
        .line(
            reason == null ? "%s in %s is looked at again" : "%s in %s means nothing here",
            group,
            name);
  }

  @Command(mixinStandardHelpOptions = true, description = "Accounts in an application.")
  void accounts(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(PATH + "/" + Service.encoded(name) + "/accounts", AccountView.class, limit),
            "No such accounts.",
            List.of(
                column("ID", AccountView::id),
                column("NAME", AccountView::name),
                column("LEVEL", AccountView::level),
                column("PERSON", AccountView::person),
                column("GROUPS", account -> String.join(", ", account.groups())),
                column("SEEN", account -> Text.time(account.seenAt()))));
  }
}
