package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AffectedView;
import ebb.api.ChangeSetView;
import ebb.api.Listing;
import ebb.api.OffAccountView;
import ebb.api.ReturningView;
import ebb.api.SelectionRequest;
import ebb.api.SuspensionEdit;
import ebb.api.SuspensionRequest;
import ebb.api.SuspensionView;
import ebb.api.WayRequest;
import ebb.api.WayView;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "suspensions",
    mixinStandardHelpOptions = true,
    description = "People kept out of applications for a time, and what is still open to them.")
final class SuspensionsCommand {
  private static final String PATH = "/api/v1/suspensions";

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Show what suspending people would do to each, and as a change set. Nothing they hold is"
              + " lost.")
  void start(
      @Parameters(paramLabel = "ID", arity = "0..*") List<Long> people,
      @Option(names = "--filter", description = "all it finds, as in department eq \"Deck\"")
          String filter,
      @Option(names = "--expect", paramLabel = "COUNT", description = "how many it is to find")
          Long expected,
      @Option(
              names = "--reason",
              required = true,
              description = "leave, season, dormant, inquiry or other")
          String reason,
      @Option(names = "--note", description = "for whoever looks at it later") String note,
      @Option(names = "--from", description = "the first day; default at once") LocalDate from,
      @Option(names = "--until", description = "the last day; default until they are brought back")
          LocalDate until,
      @Option(names = "--review", description = "when to be reminded to look again")
          LocalDate review,
      @Option(
              names = "--in",
              paramLabel = "APPLICATION",
              split = ",",
              description = "only there; default all")
          Set<String> applications,
      @Option(names = "--discreet", description = "why is seen only by operators with that right")
          boolean discreet,
      @Option(
              names = "--notices",
              description = "what Ebb writes to them goes on, to their private address")
          boolean notices,
      @Option(names = "--release", description = "release at once") boolean release) {
    var request =
        new SuspensionRequest(
            people,
            filter,
            expected,
            reason,
            note,
            from,
            until,
            review,
            applications,
            discreet,
            notices);
    if (main.output().isForPeople()) {
      affected(request);
    }
    new Sets(main).shown(main.service().post(PATH, request, ChangeSetView.class), release);
  }

  private void affected(SuspensionRequest request) {
    main.output()
        .list(
            main.service().postForAll(PATH + "/check", request, AffectedView.class),
            "",
            List.of(
                column("ID", AffectedView::person),
                column("NAME", AffectedView::displayName),
                column("OUTCOME", AffectedView::outcome),
                column("SWITCHED OFF IN", one -> String.join(", ", one.applications())),
                column("WHY", one -> one.why() == null ? "" : one.why())));
    main.output().line("");
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Show what comes back to people when all their suspensions end.")
  void end(
      @Parameters(paramLabel = "ID", arity = "1..*") List<Long> people,
      @Option(names = "--release", description = "release at once") boolean release) {
    var request = new SelectionRequest(people);
    if (main.output().isForPeople()) {
      main.output()
          .list(
              main.service().postForAll(PATH + "/returns/check", request, ReturningView.class),
              "",
              List.of(
                  column("ID", ReturningView::person),
                  column("NAME", ReturningView::displayName),
                  column("BACK IN", one -> String.join(", ", one.back())),
                  column("NOT AS BEFORE", one -> String.join("; ", one.otherwise())),
                  column("STAYS OFF", one -> one.staysOff() == null ? "" : one.staysOff())));
      main.output().line("");
    }
    new Sets(main)
        .shown(main.service().post(PATH + "/returns", request, ChangeSetView.class), release);
  }

  @Command(mixinStandardHelpOptions = true, description = "Show what other dates would change.")
  void move(
      @Parameters(paramLabel = "SUSPENSION") long id,
      @Option(names = "--until", description = "the last day; default until they are brought back")
          LocalDate until,
      @Option(names = "--review", description = "when to be reminded to look again")
          LocalDate review,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .write(
                    "PUT", PATH + "/" + id, new SuspensionEdit(until, review), ChangeSetView.class),
            release);
  }

  @Command(mixinStandardHelpOptions = true, description = "Who is suspended, or will be.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, SuspensionView.class, 10_000),
            "Nobody is suspended by an operator.",
            List.of(
                column("SUSPENSION", SuspensionView::id),
                column("PERSON", SuspensionView::person),
                column("NAME", SuspensionView::displayName),
                column("UNIT", one -> Text.orDash(one.department())),
                column("REASON", one -> Text.orDash(one.reason())),
                column("FROM", SuspensionView::from),
                column("UNTIL", one -> one.until() == null ? "brought back" : one.until()),
                column("LOOK AGAIN", one -> Text.orDash(one.review())),
                column("SEATS STILL TAKEN", SuspensionsCommand::seats),
                column("STILL OPEN", SuspensionsCommand::open)));
  }

  private static String seats(SuspensionView one) {
    return one.accounts().stream()
        .flatMap(account -> account.seats().stream())
        .collect(Collectors.toCollection(TreeSet::new))
        .stream()
        .collect(Collectors.joining(", "));
  }

  private static String open(SuspensionView one) {
    return one.accounts().stream()
        .filter(account -> !account.standing().equals("off"))
        .map(account -> account.application() + " (" + account.standing() + ")")
        .collect(Collectors.joining(", "));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What is still open to a person's suspended accounts.")
  void ways(@Parameters(paramLabel = "ID") long person) {
    var accounts = main.service().list(ways(person, ""), OffAccountView.class, 1_000);
    show(accounts);
    if (main.output().isForPeople()) {
      accounts.items().stream()
          .flatMap(account -> account.ways().stream())
          .filter(way -> way.person() != null && way.waivedBy() == null)
          .map(WayView::person)
          .distinct()
          .forEach(this::sayHowToGiveAway);
    }
  }

  private void sayHowToGiveAway(long technical) {
    main.output()
        .line(
            "A technical identity is given to somebody else: ebb people edit %d manager=ID",
            technical);
  }

  private static String ways(long person, String act) {
    return "/api/v1/people/" + person + "/ways-in" + act;
  }

  private void show(Listing<OffAccountView> accounts) {
    main.output()
        .list(
            accounts,
            "No account of theirs is suspended.",
            List.of(
                column("ACCOUNT", OffAccountView::account),
                column("APPLICATION", OffAccountView::application),
                column("STANDING", OffAccountView::standing),
                column("SESSIONS", OffAccountView::sessions),
                column(
                    "WAYS IN",
                    one ->
                        one.ways().stream()
                            .map(SuspensionsCommand::words)
                            .collect(Collectors.joining("; "))),
                column("ASKED", one -> one.askedAt() == null ? "" : Text.time(one.askedAt()))));
  }

  private static String words(WayView way) {
    return "%s %s (%s)%s"
        .formatted(
            way.kind(),
            way.what(),
            way.id(),
            way.waivedBy() == null
                ? ""
                : ", waived by %s: %s".formatted(way.waivedBy(), way.reason()));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Shut what is still open to a suspended account; all of it, or one way in.")
  void shut(
      @Parameters(paramLabel = "PERSON") long person,
      @Parameters(paramLabel = "ACCOUNT") long account,
      @Option(names = "--way", description = "only this one; default all, and every session")
          String way) {
    var sets = new Sets(main);
    var set =
        main.service()
            .post(ways(person, "/shut"), new WayRequest(account, way, null), ChangeSetView.class);
    sets.show(sets.follow(set.id()));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say by name and reason that a way in may stay open.")
  void waive(
      @Parameters(paramLabel = "PERSON") long person,
      @Parameters(paramLabel = "ACCOUNT") long account,
      @Parameters(paramLabel = "WAY") String way,
      @Option(names = "--reason", required = true) String reason) {
    show(
        main.service()
            .postForAll(
                ways(person, "/waivers"),
                new WayRequest(account, way, reason),
                OffAccountView.class));
  }
}
