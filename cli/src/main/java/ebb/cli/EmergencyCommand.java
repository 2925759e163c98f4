package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ChangeSetView;
import ebb.api.EmergencyAccountView;
import ebb.api.EmergencyStopView;
import ebb.api.Listing;
import ebb.api.ReasonRequest;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "emergency",
    mixinStandardHelpOptions = true,
    description = "Shut a person out of everything at once, and see how far that has come.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb emergency stop 12 --reason 'laptop stolen, signed in'",
      "  ebb emergency show 12",
      "  ebb emergency lift 12 --reason 'laptop found, passwords changed' --release"
    })
final class EmergencyCommand {
  private static final int MOST = 200;
  private static final String BEING_SHUT = "being shut";
  private static final String PEOPLE = "/api/v1/people/";
  private static final Duration WATCHED = Duration.ofSeconds(15);
  private static final Duration BETWEEN_LOOKS = Duration.ofMillis(300);

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Sign-in, sessions and all other ways in are shut in every application, past every"
              + " pause, guard and release. Holds until it is lifted.")
  void stop(
      @Parameters(paramLabel = "ID", description = "the person's number") long id,
      @Option(names = "--reason", required = true, description = "kept in the journal")
          String reason)
      throws InterruptedException {
    var stop = main.service().post(path(id), new ReasonRequest(reason), EmergencyStopView.class);
    var end = Instant.now().plus(WATCHED);
    while (isMoving(stop) && Instant.now().isBefore(end)) {
      Thread.sleep(BETWEEN_LOOKS);
      stop = get(id);
    }
    text(stop);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "How far a stop has come, application by application.")
  void show(@Parameters(paramLabel = "ID") long id) {
    text(get(id));
  }

  @Command(mixinStandardHelpOptions = true, description = "Stops in force.")
  void list() {
    main.output()
        .list(
            main.service().list("/api/v1/emergency-stops", EmergencyStopView.class, MOST),
            "Nobody is stopped.",
            List.of(
                column("PERSON", EmergencyStopView::person),
                column("NAME", EmergencyStopView::displayName),
                column("SINCE", stop -> Text.time(stop.since())),
                column("BY", EmergencyStopView::by),
                column("REASON", EmergencyStopView::reason),
                column("NOW", EmergencyCommand::standing)));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Lift a stop; shows what comes back, which waits for its release.")
  void lift(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", required = true, description = "kept in the journal")
          String reason,
      @Option(names = "--release", description = "release what comes back at once")
          boolean release) {
    var set =
        main.service().post(path(id) + "/lift", new ReasonRequest(reason), ChangeSetView.class);
    if (set == null) {
      main.output().line("The stop of person %d is lifted. No account of theirs comes back.", id);
    } else {
      new Sets(main).shown(set, release);
    }
  }

  private EmergencyStopView get(long id) {
    return main.service().get(path(id), EmergencyStopView.class);
  }

  private static String path(long id) {
    return PEOPLE + id + "/emergency-stop";
  }

  private void text(EmergencyStopView stop) {
    var out = main.output();
    out.one(
        stop,
        () -> {
          out.line(
              "Emergency stop of %s (person %d), by %s, %s: %s",
              stop.displayName(), stop.person(), stop.by(), Text.time(stop.since()), stop.reason());
          out.table(
              Listing.whole(stop.accounts()),
              "There is no account of theirs anywhere. None will be made while the stop holds.",
              List.of(
                  column("APPLICATION", EmergencyAccountView::application),
                  column("ACCOUNT", EmergencyAccountView::name),
                  column("SIGN-IN", one -> since(stop, one.signIn(), one.signInShutAt())),
                  column(
                      "SESSIONS, OTHER WAYS IN",
                      one -> since(stop, one.waysIn(), one.waysInShutAt()))));
          stop.accounts().stream()
              .map(EmergencyAccountView::problem)
              .filter(Objects::nonNull)
              .forEach(problem -> out.line("  %s %s", problem.what(), problem.remedy()));
          out.line("%s", next(stop));
        });
  }

  /** The clock of each application runs until it is seen to be shut. */
  private static String since(EmergencyStopView stop, String word, Instant shutAt) {
    return shutAt == null
        ? word
        : "%s after %.1f s"
            .formatted(word, Duration.between(stop.since(), shutAt).toMillis() / 1000.0);
  }

  private static String next(EmergencyStopView stop) {
    if (stop.accounts().stream().anyMatch(EmergencyCommand::isRefused)) {
      return "Something was refused. Mend it, or shut it there by hand; then order all once more:"
          + " ebb emergency stop %d --reason WHY".formatted(stop.person());
    }
    if (isMoving(stop)) {
      return "Not shut everywhere yet; Ebb goes on by itself. Look again: ebb emergency show "
          + stop.person();
    }
    var unknown = stop.accounts().stream().filter(one -> one.waysIn().equals("not known")).toList();
    return "%sLift it: ebb emergency lift %d --reason WHY"
        .formatted(
            unknown.isEmpty()
                ? ""
                : "Where it is not known whether somebody is signed in, end sessions there by hand. ",
            stop.person());
  }

  private static boolean isMoving(EmergencyStopView stop) {
    return stop.accounts().stream()
        .anyMatch(one -> one.signIn().equals(BEING_SHUT) || one.waysIn().equals(BEING_SHUT));
  }

  private static boolean isRefused(EmergencyAccountView account) {
    return account.signIn().equals("refused") || account.waysIn().equals("refused");
  }

  private static String standing(EmergencyStopView stop) {
    if (stop.isShut()) {
      return "shut everywhere";
    }
    if (stop.accounts().stream().anyMatch(EmergencyCommand::isRefused)) {
      return "refused somewhere";
    }
    return isMoving(stop) ? BEING_SHUT : "shut, as far as it is known";
  }
}
