package ebb.cli;

import ebb.api.ErrandView;
import ebb.api.NowView;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "now",
    mixinStandardHelpOptions = true,
    description = "What needs you, and what is under way.")
final class NowCommand implements Runnable {
  /** The urgency of what goes on by itself. */
  private static final int RUNNING = 3;

  @ParentCommand private Main main;

  @Override
  public void run() {
    var now = main.service().get("/api/v1/now", NowView.class);
    main.output().one(now, () -> text(now));
  }

  private static String detail(ErrandView errand) {
    return errand.detail() == null ? "" : ": " + errand.detail();
  }

  private void text(NowView now) {
    var out = main.output();
    out.line("Needs somebody");
    var urgent = now.errands().stream().filter(errand -> errand.urgency() < RUNNING).toList();
    urgent.forEach(errand -> out.line("  %s%s", errand.what(), detail(errand)));
    if (urgent.isEmpty()) {
      out.line("  nothing");
    }
    out.line(
        "In all %s to release, %d stopped; %s refused; %s nobody can be sent",
        Text.count(now.setsToRelease() + now.setsStopped(), "change set", "change sets"),
        now.setsStopped(),
        Text.count(now.changesRefused(), "change", "changes"),
        Text.count(now.noticesUndeliverable(), "notice", "notices"));
    out.line("Under way");
    out.line("  %4d changes", now.changesUnderWay());
    out.line("  %4d notices to be sent", now.noticesWaiting());
    out.line("  %4d departures                      ebb departures list", now.departuresRunning());
  }
}
