package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.UnitView;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "units",
    mixinStandardHelpOptions = true,
    description = "The tree of units, and how many people belong to each.")
final class UnitsCommand implements Runnable {
  @ParentCommand private Main main;

  @Override
  public void run() {
    main.output()
        .list(
            main.service().list("/api/v1/units", UnitView.class, 100_000),
            "Nobody belongs to a unit yet, and no source knows of one.",
            List.of(
                column("UNIT", unit -> "  ".repeat(unit.level()) + unit.name()),
                column("PEOPLE", UnitView::people),
                column("KNOWN", unit -> unit.known() ? "" : "only named by people")));
  }
}
