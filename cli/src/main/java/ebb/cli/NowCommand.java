package ebb.cli;

import ebb.api.NowView;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "now",
    mixinStandardHelpOptions = true,
    description = "What needs you, and what is under way.")
final class NowCommand implements Runnable {
  @ParentCommand private Main main;

  @Override
  public void run() {
    var now = main.service().get("/api/v1/now", NowView.class);
    main.output().one(now, () -> text(now));
  }

  private void text(NowView now) {
    var out = main.output();
    out.line("Needs somebody");
    out.line(
        "  %4d change sets to release          ebb changes list --state shown",
        now.setsToRelease());
    out.line("  %4d change sets the guard stopped", now.setsStopped());
    out.line("  %4d changes refused", now.changesRefused());
    out.line("  %4d notices nobody can be sent      ebb notices list", now.noticesUndeliverable());
    out.line("Under way");
    out.line("  %4d changes", now.changesUnderWay());
    out.line("  %4d notices to be sent", now.noticesWaiting());
    out.line("  %4d departures                      ebb departures list", now.departuresRunning());
  }
}
