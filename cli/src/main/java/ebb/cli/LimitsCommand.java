package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.LimitEdit;
import ebb.api.LimitView;
import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "limits",
    mixinStandardHelpOptions = true,
    description = "The numbers the guard measures by.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb limits set missing 0.1                     a tenth missing stops any source",
      "  ebb limits set missing 0.5 --of season --reason 'the season ends'"
    })
final class LimitsCommand {
  private static final String PATH = "/api/v1/limits";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "All limits, and why they are so.")
  void list() {
    main.output()
        .list(
            main.service().list(PATH, LimitView.class, 1000),
            "There are none.",
            List.of(
                column("NAME", LimitView::name),
                column("LIMIT", limit -> words(limit, limit.value())),
                column("OF", LimitView::of),
                column(
                    "BUT",
                    limit ->
                        limit.exceptions().stream()
                            .map(one -> one.name() + " " + words(limit, one.value()))
                            .collect(Collectors.joining(", "))),
                column("WHY", LimitView::why)));
  }

  @Command(mixinStandardHelpOptions = true, description = "Set a limit.")
  void set(
      @Parameters(paramLabel = "NAME", index = "0") String name,
      @Parameters(
              paramLabel = "VALUE",
              index = "1",
              arity = "0..1",
              description = "a share as a part of one; left out, what is usual")
          Double value,
      @Option(names = "--of", description = "for one source or application") String of,
      @Option(names = "--reason", description = "goes into the journal") String reason) {
    var limit =
        main.service()
            .write(
                "PUT",
                PATH + "/" + Service.encoded(name),
                new LimitEdit(value, of, reason),
                LimitView.class);
    main.output()
        .one(
            limit,
            () ->
                main.output()
                    .line("%s is %s %s", limit.name(), words(limit, limit.value()), limit.of()));
  }

  private static String words(LimitView limit, double value) {
    return limit.unit().equals("share")
        ? BigDecimal.valueOf(value).movePointRight(2).stripTrailingZeros().toPlainString() + "%"
        : String.format(Locale.ROOT, "%,.0f", value);
  }
}
