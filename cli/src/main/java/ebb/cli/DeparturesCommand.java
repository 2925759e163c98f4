package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.DepartureAccountView;
import ebb.api.DepartureView;
import ebb.api.RecipientRequest;
import ebb.api.WaiverRequest;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "departures",
    mixinStandardHelpOptions = true,
    description = "Departures and closings: steps, gates, handover.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb departures show 2",
      "  ebb departures recipient 2 31",
      "  ebb departures waive 2 3 references --reason 'looked there: only a shared calendar'",
      "  ebb departures retry 2"
    })
final class DeparturesCommand {
  private static final String PATH = "/api/v1/departures";

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
                column("WHAT", one -> one.closing() ? "closing" : "departure"),
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
              departure.closing() ? "Closing" : "Departure",
              departure.id(),
              departure.displayName(),
              departure.state());
          out.line("  because    %s", departure.reason());
          out.line("  recipient  %s", Text.orDash(departure.recipientName()));
          departure.accounts().forEach(this::text);
        });
  }

  private void text(DepartureAccountView account) {
    var out = main.output();
    out.line(
        "  Account %d in %s: %s, %s",
        account.id(), account.application(), account.name(), account.level());
    if (account.sheet() != null) {
      account.sheet().forEach((kind, words) -> out.line("    owned      %s: %s", kind, words));
    }
    account
        .gates()
        .forEach(gate -> out.line("    %-9s  %-10s %s", gate.state(), gate.name(), gate.why()));
    out.line("    next       %s", account.next());
  }
}
