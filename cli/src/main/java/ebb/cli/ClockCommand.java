package ebb.cli;

import ebb.api.ClockRequest;
import ebb.api.ClockView;
import java.time.Duration;
import java.time.Instant;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "clock",
    mixinStandardHelpOptions = true,
    description = "The business time; in the demo it can be moved forward.")
final class ClockCommand implements Runnable {
  @ParentCommand private Main main;

  @Option(names = "--to", description = "an instant, as in 2027-03-01T08:00:00Z")
  private Instant to;

  @Option(names = "--days", description = "this many days ahead")
  private Integer days;

  @Override
  public void run() {
    var service = main.service();
    var now = service.get("/api/v1/clock", ClockView.class);
    var target = to != null ? to : days == null ? null : now.now().plus(Duration.ofDays(days));
    var shown =
        target == null
            ? now
            : service.post("/api/v1/clock", new ClockRequest(target), ClockView.class);
    main.output().one(shown, () -> main.output().line("Business time: %s", Text.time(shown.now())));
  }
}
