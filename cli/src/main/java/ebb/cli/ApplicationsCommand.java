package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AccountView;
import ebb.api.ApplicationEdit;
import ebb.api.ApplicationView;
import ebb.api.SyncView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
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

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Connect an application, or change how. It is tried, and nothing is written there.")
  void connect(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--kind", required = true, description = "scim or ldap") String kind,
      @Option(names = "--set", description = "a setting, as in --set address=http://localhost:9000")
          Map<String, String> settings,
      @Option(names = "--secret-file", description = "file that holds the password or token")
          Path secretFile)
      throws IOException {
    var secret = secretFile == null ? null : Files.readString(secretFile).strip();
    var made =
        main.service()
            .write(
                "PUT",
                PATH + "/" + Service.encoded(name),
                new ApplicationEdit(kind, settings, secret),
                ApplicationView.class);
    text(made);
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
          out.line("  accounts           %s", Text.orDash(accounts(application)));
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
          "Read all accounts, and propose to put right what drifted. Writes nothing there.")
  void sync(@Parameters(paramLabel = "NAME") String name) {
    var out = main.output();
    var found =
        main.service().post(PATH + "/" + Service.encoded(name) + "/sync", null, SyncView.class);
    out.one(
        found,
        () -> {
          out.line(
              "%s: %d accounts read, %d in step, %d drifted, %d missing, %d of nobody known",
              found.application(),
              found.read(),
              found.inStep(),
              found.drifted(),
              found.missing(),
              found.unmatched());
          if (found.changeSet() != null) {
            out.line("  To put right what drifted: ebb changes show %d --all", found.changeSet());
          }
          if (found.unmatched() > 0) {
            out.line("  Of nobody: ebb applications accounts %s --unmatched", found.application());
          }
        });
  }

  @Command(mixinStandardHelpOptions = true, description = "Accounts in an application.")
  void accounts(
      @Parameters(paramLabel = "NAME") String name,
      @Option(names = "--unmatched", description = "only those of nobody known") boolean unmatched,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH + "/" + Service.encoded(name) + "/accounts?unmatched=" + unmatched,
                    AccountView.class,
                    limit),
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
