package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ExecutionView;
import ebb.api.ExecutionView.WorkView;
import ebb.api.Listing;
import ebb.api.PauseRequest;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "execution",
    mixinStandardHelpOptions = true,
    description = "How released changes are carried out, and the brake.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb execution show",
      "  ebb execution stop --why 'a wrong rule is being carried out'",
      "  ebb execution go-on"
    })
final class ExecutionCommand {
  private static final String PATH = "/api/v1/execution";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "How the work on each application goes.")
  void show() {
    text(main.service().get(PATH, ExecutionView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Stop all work on all applications. What is under way is finished first.")
  void stop(
      @Option(names = "--why", required = true, description = "said to everybody") String why) {
    text(main.service().post(PATH + "/stop", new PauseRequest(why), ExecutionView.class));
  }

  @Command(name = "go-on", mixinStandardHelpOptions = true, description = "Let all work go on.")
  void goOn() {
    text(main.service().post(PATH + "/go-on", null, ExecutionView.class));
  }

  private void text(ExecutionView execution) {
    var out = main.output();
    out.one(
        execution,
        () -> {
          var stopped = execution.stopped();
          if (stopped != null) {
            out.line(
                "All work is stopped, by %s, %s: %s",
                stopped.by(), Text.time(stopped.at()), stopped.why());
            out.line("Let it go on with: ebb execution go-on");
          }
          out.table(
              Listing.whole(execution.applications()),
              "No application is connected.",
              List.of(
                  column("APPLICATION", WorkView::application),
                  column("WAITING", WorkView::waiting),
                  column("UNDER WAY", WorkView::underWay),
                  column("AT ONCE", WorkView::callsAtOnce),
                  column("ABOUT", ExecutionCommand::about),
                  column("NOW", ExecutionCommand::now)));
        });
  }

  private static String about(WorkView work) {
    var seconds = work.expectedSeconds();
    if (seconds == null) {
      return "";
    }
    return seconds < 120 ? seconds + " s" : Math.round(seconds / 60.0) + " min";
  }

  private static String now(WorkView work) {
    if (work.paused() != null) {
      return "paused by %s: %s".formatted(work.paused().by(), work.paused().why());
    }
    if (work.restsUntil() != null) {
      return "rests until %s: %s".formatted(Text.time(work.restsUntil()), work.problem().what());
    }
    return work.problem() == null ? "well" : "feels the way: " + work.problem().what();
  }
}
