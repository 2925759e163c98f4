package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ApprovalRequest;
import ebb.api.ChangeSetView;
import ebb.api.DepartureAccountView;
import ebb.api.DepartureDates;
import ebb.api.DepartureStart;
import ebb.api.DepartureView;
import ebb.api.GateView;
import ebb.api.LeaveOutRequest;
import ebb.api.OpenRequest;
import ebb.api.PieceView;
import ebb.api.ProcedureEdit;
import ebb.api.ProcedureView;
import ebb.api.ReasonRequest;
import ebb.api.RecipientRequest;
import ebb.api.SheetLineView;
import ebb.api.WaiverRequest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;
import tools.jackson.databind.JsonNode;

@Command(
    addMethodSubcommands = false,
    name = "departures",
    mixinStandardHelpOptions = true,
    description = "Departures and closings: steps, gates, handover.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb departures start 12 --last-day 2027-03-31 --successor 31 --release",
      "  ebb departures show 2",
      "  ebb departures recipient 2 31",
      "  ebb departures waive 2 3 references --reason 'looked there: only a shared calendar'",
      "  ebb departures retry 2"
    })
final class DeparturesCommand {
  private static final String PATH = "/api/v1/departures";
  private static final String PROCEDURES = "/api/v1/procedures";

  /** What accounts come to once their gates are open. */
  private static final Map<String, String> ENDINGS =
      Map.of(
          "delete", "it is deleted",
          "strip", "it is stripped of what is personal, and stays suspended",
          "keep", "it stays suspended");

  @ParentCommand private Main main;

  @Command(
      mixinStandardHelpOptions = true,
      description = "Departures in the order in which they began.")
  void list(
      @Option(names = "--state", description = "running, turned-back or done") String state,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH + (state == null ? "" : "?state=" + Service.encoded(state)),
                    DepartureView.class,
                    limit),
            "No departure.",
            List.of(
                column("ID", DepartureView::id),
                column("WHO", DepartureView::displayName),
                column("WHAT", DepartureView::kind),
                column("STATE", DepartureView::state),
                column("LAST DAY", DepartureView::lastDay),
                column("RECIPIENT", DepartureView::recipientName),
                column("ACCOUNTS", one -> accounts(one))));
  }

  private static String accounts(DepartureView departure) {
    return departure.accounts().stream()
        .map(account -> account.application() + " " + account.level() + shut(account))
        .collect(Collectors.joining(", "));
  }

  private static String shut(DepartureAccountView account) {
    return account.gates().stream()
        .filter(gate -> gate.state().equals("shut") || gate.state().equals("not known"))
        .findFirst()
        .map(gate -> " (" + gate.name() + " is " + gate.state() + ")")
        .orElse("");
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "One departure: each account with its gates.")
  void show(@Parameters(paramLabel = "ID") long id) {
    text(main.service().get(PATH + "/" + id, DepartureView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "Show what it changes that somebody leaves; one whose last day has passed is under way"
              + " once that is released.")
  void start(
      @Parameters(paramLabel = "PERSON") long person,
      @Option(names = "--last-day", required = true, description = "the last day of use")
          LocalDate lastDay,
      @Option(
              names = "--successor",
              paramLabel = "PERSON",
              description = "who gets what they leave behind; default their manager")
          Long successor,
      @Option(names = "--release", description = "release at once") boolean release) {
    new Sets(main)
        .shown(
            main.service()
                .post(PATH, new DepartureStart(person, lastDay, successor), ChangeSetView.class),
            release);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Say that they are not coming back, where the procedure asks for it.")
  void confirm(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", required = true, description = "who said so") String reason) {
    text(
        main.service()
            .post(
                PATH + "/" + id + "/confirmation", new ReasonRequest(reason), DepartureView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Stop it for a time: nothing is handed over and nothing removed.")
  void pause(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", required = true) String reason) {
    text(
        main.service()
            .post(PATH + "/" + id + "/pause", new ReasonRequest(reason), DepartureView.class));
  }

  @Command(name = "go-on", mixinStandardHelpOptions = true, description = "Let it go on.")
  void goOn(@Parameters(paramLabel = "ID") long id) {
    text(main.service().post(PATH + "/" + id + "/go-on", null, DepartureView.class));
  }

  @Command(mixinStandardHelpOptions = true, description = "Move what lies ahead to other days.")
  void move(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--hand-over", paramLabel = "DAY", description = "the handover begins")
          LocalDate handOverFrom,
      @Option(names = "--delete", paramLabel = "DAY", description = "accounts may be removed")
          LocalDate deleteFrom,
      @Option(names = "--reason", required = true) String reason) {
    text(
        main.service()
            .write(
                "PUT",
                PATH + "/" + id + "/dates",
                new DepartureDates(handOverFrom, deleteFrom, reason),
                DepartureView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description =
          "How departures go, by kind of people; with KIND, say how those of that kind are to go.")
  void procedures(
      @Parameters(paramLabel = "KIND", arity = "0..1", description = "others for all the rest")
          String kind,
      @Option(names = "--hand-over", paramLabel = "DAYS", description = "after the last day")
          Integer handOverDays,
      @Option(names = "--delete", paramLabel = "DAYS", description = "after the last day")
          Integer waitDays,
      @Option(
              names = "--asks-return",
              description = "somebody has to say that they are not coming back")
          boolean asksReturn,
      @Option(
              names = "--reply",
              paramLabel = "FILE",
              description =
                  "answers whoever writes to them: the subject in the first line, with {name},"
                      + " {recipient}, {address}, {lastDay}")
          Path reply,
      @Option(names = "--reply-days", paramLabel = "DAYS", description = "default 90")
          Integer replyDays,
      @Option(
              names = "--forget",
              paramLabel = "DAYS",
              description = "after the end what is known of them is forgotten for good")
          Integer forgetDays,
      @Option(names = "--drop", description = "they go as others do") boolean drop)
      throws IOException {
    if (kind != null && drop) {
      main.service().delete(PROCEDURES + "/" + Service.encoded(kind));
    } else if (kind != null) {
      main.service()
          .write(
              "PUT",
              PROCEDURES + "/" + Service.encoded(kind),
              new ProcedureEdit(
                  handOverDays == null ? 3 : handOverDays,
                  waitDays == null ? 30 : waitDays,
                  asksReturn,
                  reply == null ? null : Files.readString(reply),
                  replyDays,
                  forgetDays),
              JsonNode.class);
    }
    main.output()
        .list(
            main.service().list(PROCEDURES, ProcedureView.class, 1_000),
            "",
            List.of(
                column("KIND", one -> one.kind() == null ? "others" : one.kind()),
                column("HANDED OVER AFTER", one -> one.handOverDays() + " days"),
                column("DELETED AFTER", one -> one.waitDays() + " days"),
                column("ASKS WHETHER THEY COME BACK", one -> one.asksReturn() ? "yes" : "no"),
                column(
                    "AUTOMATIC REPLY",
                    one -> one.replyText() == null ? "-" : one.replyDays() + " days"),
                column(
                    "FORGOTTEN AFTER THE END",
                    one -> one.forgetDays() == null ? "never" : one.forgetDays() + " days")));
  }

  @Command(mixinStandardHelpOptions = true, description = "Name who gets what the accounts own.")
  void recipient(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "PERSON", index = "1") long person) {
    text(
        main.service()
            .write(
                "PUT",
                PATH + "/" + id + "/recipient",
                new RecipientRequest(person),
                DepartureView.class));
  }

  @Command(mixinStandardHelpOptions = true, description = "Open a gate that cannot open by itself.")
  void waive(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ACCOUNT", index = "1", description = "number in the departure")
          long account,
      @Parameters(paramLabel = "GATE", index = "2") String gate,
      @Option(names = "--reason", required = true) String reason) {
    text(
        main.service()
            .post(
                PATH + "/" + id + "/waivers",
                new WaiverRequest(account, gate, reason),
                DepartureView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What an account owned when stock was taken, item by item.")
  void items(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ACCOUNT", index = "1", description = "number in the departure")
          long account,
      @Option(names = "--state", description = "owned, arrived, failed, left-out or gone")
          String state,
      @Option(names = "--limit", defaultValue = "50") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH
                        + "/%d/accounts/%d/items".formatted(id, account)
                        + (state == null ? "" : "?state=" + Service.encoded(state)),
                    PieceView.class,
                    limit),
            "Nothing.",
            List.of(
                column("KIND", PieceView::kind),
                column("NAME", PieceView::name),
                column("SIZE", one -> Text.bytes(one.bytes())),
                column("STATE", PieceView::state),
                column("WHERE, OR WHY NOT", one -> words(one))));
  }

  private static String words(PieceView piece) {
    return piece.problem() != null
        ? piece.problem().what() + " " + piece.problem().remedy()
        : piece.leftOut() != null
            ? piece.leftOut()
            : piece.recipient() == null
                ? Text.orDash(piece.place())
                : "with " + piece.recipient() + (piece.place() == null ? "" : ": " + piece.place());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Open one thing an account of a leaver holds; that and why is in the journal.")
  void open(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ACCOUNT", index = "1", description = "number in the departure")
          long account,
      @Option(names = "--item", required = true, description = "its id in --json") String item,
      @Option(names = "--reason", required = true) String reason,
      @Option(names = "--to", required = true, paramLabel = "FILE") Path to) {
    main.service()
        .download(
            PATH + "/%d/accounts/%d/opened".formatted(id, account),
            new OpenRequest(item, reason),
            to);
    main.output().line("Written: %s. That you opened it is in the journal.", to);
  }

  @Command(
      name = "leave-out",
      mixinStandardHelpOptions = true,
      description =
          "Leave out of a handover what has not been handed over; it goes with its account.")
  void leaveOut(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ACCOUNT", index = "1", description = "number in the departure")
          long account,
      @Option(names = "--kind", description = "all of it") String kind,
      @Option(names = "--item", description = "one, by its id in --json") String item,
      @Option(names = "--reason", required = true) String reason) {
    text(
        main.service()
            .post(
                PATH + "/" + id + "/left-out",
                new LeaveOutRequest(account, kind, item, reason),
                DepartureView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Approve the removal of an account that owned much; not what one decided.")
  void approve(
      @Parameters(paramLabel = "ID", index = "0") long id,
      @Parameters(paramLabel = "ACCOUNT", index = "1", description = "number in the departure")
          long account,
      @Option(names = "--reason", required = true) String reason) {
    text(
        main.service()
            .post(
                PATH + "/" + id + "/approvals",
                new ApprovalRequest(account, reason),
                DepartureView.class));
  }

  @Command(mixinStandardHelpOptions = true, description = "Try failed handovers again.")
  void retry(@Parameters(paramLabel = "ID") long id) {
    text(main.service().post(PATH + "/" + id + "/retry", null, DepartureView.class));
  }

  private void text(DepartureView departure) {
    var out = main.output();
    out.one(
        departure,
        () -> {
          out.line(
              "%s %d of %s: %s",
              Text.begun(departure.kind()),
              departure.id(),
              departure.displayName(),
              departure.state());
          out.line("  because    %s", departure.reason());
          out.line(
              "  recipient  %s%s",
              Text.orDash(departure.recipientName()),
              departure.accepted() != null
                  ? ", who takes it"
                  : departure.declined() != null
                      ? " (declined by " + departure.declined() + ")"
                      : "");
          if (departure.paused() != null) {
            out.line("  paused     %s", departure.paused());
          }
          departure
              .steps()
              .forEach(
                  step ->
                      out.line(
                          "  %-10s %-10s %-10s %s",
                          step.name(), Text.orDash(step.day()), step.state(), step.words()));
          departure.accounts().forEach(this::text);
        });
  }

  private static String words(SheetLineView line) {
    var words =
        new StringBuilder(
            "%s: %,d, %s".formatted(line.kind(), line.count(), Text.bytes(line.bytes())));
    more(words, line.arrived(), "arrived");
    more(words, line.failed(), "could not be handed over");
    more(words, line.leftOut(), "left out");
    more(words, line.uncovered(), "cannot be handed over there");
    more(words, line.gone(), "gone meanwhile");
    return words.toString();
  }

  private static String opener(GateView gate) {
    return gate.opener() == null
        ? ""
        : " %sOpened by: %s."
            .formatted(
                gate.since() == null ? "" : "Shut since %s. ".formatted(gate.since()),
                gate.opener());
  }

  private static void more(StringBuilder words, long count, String what) {
    if (count > 0) {
      words.append("; %,d %s".formatted(count, what));
    }
  }

  private void text(DepartureAccountView account) {
    var out = main.output();
    out.line(
        "  Account %d in %s: %s, %s",
        account.id(), account.application(), account.name(), account.level());
    if (account.sheet() != null) {
      account.sheet().forEach(line -> out.line("    owned      %s", words(line)));
    }
    account
        .gates()
        .forEach(
            gate ->
                out.line(
                    "    %-9s  %-10s %s%s", gate.state(), gate.name(), gate.why(), opener(gate)));
    if (!account.gates().isEmpty()) {
      out.line("    at the end %s", ENDINGS.get(account.ending()));
    }
    out.line("    next       %s", account.next());
  }
}
