package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.FeedEdit;
import ebb.api.FeedRunView;
import ebb.api.FeedTokenView;
import ebb.api.FeedView;
import ebb.api.ImportView;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "feeds",
    mixinStandardHelpOptions = true,
    description = "Standing sources: got or found come, read, and let through within the guard.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb feeds put hr --kind folder --set path=/srv/hr --complete --at '0 30 5 * * *'",
      "  ebb feeds test hr --expected 420   what it would do; nothing is sent anywhere",
      "  ebb feeds on hr",
      "  ebb feeds put crew --kind push     an HR system sends people over SCIM, as they change",
      "  ebb feeds token crew               by which it shows who it is"
    })
final class FeedsCommand {
  private static final String PATH = "/api/v1/feeds";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All feeds.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, FeedView.class, 1000),
            "There is no feed yet. Set one up: ebb feeds put --help",
            List.of(
                column("SOURCE", FeedView::source),
                column("BY", FeedView::kind),
                column("STATE", FeedView::state),
                column("LAST", feed -> feed.last() == null ? "" : feed.last().outcome()),
                column("AT", feed -> feed.last() == null ? "" : Text.time(feed.last().startedAt())),
                column("NEXT", feed -> feed.nextAt() == null ? "" : Text.time(feed.nextAt())),
                column("AMISS", feed -> feed.problem() == null ? "" : feed.problem().what())));
  }

  @Command(mixinStandardHelpOptions = true, description = "One feed.")
  void show(@Parameters(paramLabel = "SOURCE") String source) {
    text(main.service().get(path(source), FeedView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Set a feed up, as a draft, or change how it is set up.")
  void put(
      @Parameters(paramLabel = "SOURCE") String source,
      @Option(names = "--kind", required = true, description = "folder, http, sftp or push")
          String kind,
      @Option(
              names = "--set",
              description =
                  "NAME=VALUE: path and names of a folder; address and user over http; host, port,"
                      + " user, path, names and hostKey over sftp; groupsIn of what is pushed")
          Map<String, String> settings,
      @Option(
              names = "--secret-file",
              description = "a file with the password, token or private key")
          Path secret,
      @Option(names = "--at", description = "when: seconds, minutes, hours, days, months, weekdays")
          String cron,
      @Option(names = "--zone", description = "as in Europe/Oslo; the organisation's if left out")
          String zone,
      @Option(names = "--not-on", description = "a day on which nothing comes")
          Set<LocalDate> blackouts,
      @Option(names = "--grace", description = "minutes until a delivery is late; 60 if left out")
          Integer grace,
      @Option(names = "--complete", description = "each delivery names everybody") boolean complete,
      @Option(
              names = "--missing",
              description = "what somebody is whom it does not name: undecided, leaver, still-here")
          String missing)
      throws IOException {
    var edit =
        new FeedEdit(
            kind,
            settings == null ? null : new TreeMap<>(settings),
            secret == null ? null : Files.readString(secret).strip(),
            cron,
            zone,
            blackouts,
            grace,
            complete,
            missing);
    text(main.service().write("PUT", path(source), edit, FeedView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What its next delivery would do. Nothing is taken away or sent anywhere.")
  void test(
      @Parameters(paramLabel = "SOURCE") String source,
      @Option(names = "--expected", description = "how many rows there should be") Long expected) {
    var made =
        main.service()
            .post(
                path(source) + "/test" + (expected == null ? "" : "?expected=" + expected),
                null,
                ImportView.class);
    var out = main.output();
    out.one(
        made,
        () -> {
          out.line("%s is import %d.", made.file(), made.id());
          made.questions()
              .forEach(question -> out.line("  %s %s", question.what(), question.remedy()));
          made.counts().forEach((verdict, count) -> out.line("  %-10s %,d", verdict, count));
          if (made.changeSet() != null) {
            out.line("See: ebb changes show %d", made.changeSet());
          } else if (made.questions().stream()
              .noneMatch(question -> question.code().equals(ImportsCommand.BROKE_OFF))) {
            out.line("Say how it is read: ebb imports map %d", made.id());
          }
        });
  }

  @Command(mixinStandardHelpOptions = true, description = "Let its deliveries come in.")
  void on(@Parameters(paramLabel = "SOURCE") String source) {
    text(main.service().post(path(source) + "/on", null, FeedView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Make the token by which an HR system pushes to it. The one before ends.")
  void token(@Parameters(paramLabel = "SOURCE") String source) {
    var made = main.service().post(path(source) + "/token", null, FeedTokenView.class);
    var out = main.output();
    out.one(
        made,
        () -> {
          out.line("%s", made.token());
          out.line("It is shown this once. Whoever pushes sends it as a bearer token to");
          out.line("  %s", made.address());
        });
  }

  @Command(mixinStandardHelpOptions = true, description = "Let it rest.")
  void pause(@Parameters(paramLabel = "SOURCE") String source) {
    text(main.service().post(path(source) + "/pause", null, FeedView.class));
  }

  @Command(mixinStandardHelpOptions = true, description = "Look for a delivery now.")
  void run(@Parameters(paramLabel = "SOURCE") String source) {
    var feed = main.service().post(path(source) + "/run", null, FeedView.class);
    main.output()
        .one(
            feed,
            () -> main.output().line("%s is looked at. See: ebb feeds runs %1$s", feed.source()));
  }

  @Command(mixinStandardHelpOptions = true, description = "What each look found, newest first.")
  void runs(
      @Parameters(paramLabel = "SOURCE") String source,
      @Option(names = "--limit", defaultValue = "20") int limit) {
    main.output()
        .list(
            main.service().list(path(source) + "/runs", FeedRunView.class, limit),
            "Nothing came yet.",
            List.of(
                column("AT", run -> Text.time(run.startedAt())),
                column("OUTCOME", FeedRunView::outcome),
                column("FILE", FeedRunView::file),
                column("IMPORT", FeedRunView::made),
                column("CHANGE SET", FeedRunView::changeSet),
                column("NEW", run -> count(run, "new")),
                column("CHANGED", run -> count(run, "changed")),
                column("MISSING", run -> count(run, "missing")),
                column("AMISS", run -> run.problem() == null ? "" : run.problem().what())));
  }

  private static Object count(FeedRunView run, String verdict) {
    return run.counts().isEmpty() ? "" : run.counts().getOrDefault(verdict, 0L);
  }

  private static String path(String source) {
    return PATH + "/" + Service.encoded(source);
  }

  private void text(FeedView feed) {
    var out = main.output();
    out.one(
        feed,
        () -> {
          out.line("Feed %s, by %s: %s", feed.source(), feed.kind(), feed.state());
          feed.settings().forEach((name, value) -> out.line("  %-10s %s", name, value));
          out.line(
              feed.kind().equals("push")
                  ? "  names whoever changed; whoever is deleted there is %s"
                  : feed.complete()
                      ? "  names everybody; whoever it does not name is %s"
                      : "  names some; whoever it says has gone is %s",
              feed.missing());
          if (feed.waiting() != null && feed.waiting() > 0) {
            out.line("  waiting    %,d", feed.waiting());
          }
          if (feed.cron() != null) {
            out.line(
                "  at         %s%s", feed.cron(), feed.zone() == null ? "" : " " + feed.zone());
          }
          if (feed.nextAt() != null) {
            out.line("  next       %s", Text.time(feed.nextAt()));
          }
          if (feed.problem() != null) {
            out.line("  amiss      %s", feed.problem().what());
            out.line("  remedy     %s", feed.problem().remedy());
          }
          if (feed.state().equals("draft")) {
            out.line("Look what it would do: ebb feeds test %s", feed.source());
          }
        });
  }
}
