package ebb.cli;

import ebb.api.ProblemView;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ScopeType;
import picocli.CommandLine.Spec;

/** The client. Exit codes: 0 done, 1 refused or failed, 2 wrongly called. */
@Command(
    name = "ebb",
    mixinStandardHelpOptions = true,
    version = "ebb 0.1.0",
    description = "Keeps every person's accounts right in every connected application.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb imports add hr.csv --source hr --complete   bring a file in; nothing is written yet",
      "  ebb changes release 3                           let its change set through",
      "  ebb people list --filter 'department eq \"Deck\"'  find people",
      "  ebb now                                         what needs you, what is under way",
      "",
      "EBB_URL says where the service is (http://localhost:8440), EBB_TOKEN who you are.",
      "'ebb server' runs the service itself. 'ebb COMMAND --help' tells more."
    })
public final class Main implements Runnable {
  @Option(
      names = "--url",
      scope = ScopeType.INHERIT,
      defaultValue = "${env:EBB_URL:-http://localhost:8440}",
      description = "Where the service is. Default: EBB_URL, or http://localhost:8440")
  private String url;

  @Option(
      names = "--token",
      scope = ScopeType.INHERIT,
      defaultValue = "${env:EBB_TOKEN}",
      description = "Your token. Default: EBB_TOKEN; better there than on the command line")
  private String token;

  @Option(
      names = {"-o", "--output"},
      scope = ScopeType.INHERIT,
      defaultValue = "table",
      description = "table, json or csv. Default: ${DEFAULT-VALUE}")
  private Output.Format format;

  @Spec private CommandSpec spec;

  /** Runs one command, printing to the standard streams. */
  public static void main(String[] arguments) {
    System.exit(
        run(
            new PrintWriter(System.out, true, StandardCharsets.UTF_8),
            new PrintWriter(System.err, true, StandardCharsets.UTF_8),
            arguments));
  }

  /**
   * Runs one command.
   *
   * @return the exit code
   */
  public static int run(PrintWriter out, PrintWriter err, String... arguments) {
    return Commands.line(new Main(), List.of(arguments))
        .setOut(out)
        .setErr(err)
        .setExecutionExceptionHandler((e, command, _) -> failed(e, command))
        .setUsageHelpAutoWidth(true)
        .execute(arguments);
  }

  @Override
  public void run() {
    spec.commandLine().usage(spec.commandLine().getOut());
  }

  Service service() {
    if (token == null || token.isBlank()) {
      throw new Failure(
          "No token is set.",
          "The service does not know who you are.",
          "Set EBB_TOKEN. The first start of the service shows a link: ebb welcome LINK makes a token.");
    }
    return new Service(url, token);
  }

  Output output() {
    return new Output(spec.commandLine().getOut(), format);
  }

  PrintWriter err() {
    return spec.commandLine().getErr();
  }

  private static int failed(Exception e, CommandLine command) {
    var err = command.getErr();
    switch (e) {
      case Failure failure -> failure.problems().forEach(problem -> print(err, problem));
      default -> err.println("The client met a fault of its own: " + e);
    }
    return CommandLine.ExitCode.SOFTWARE;
  }

  private static void print(PrintWriter err, ProblemView problem) {
    err.println(problem.what());
    if (problem.where() != null) {
      err.println("  where   " + problem.where());
    }
    err.println("  why     " + problem.why());
    err.println("  remedy  " + problem.remedy());
  }
}
