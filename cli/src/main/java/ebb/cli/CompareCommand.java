package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AgreementView;
import ebb.api.ComparedView;
import ebb.api.ComparisonView;
import ebb.api.Listing;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "compare",
    mixinStandardHelpOptions = true,
    description = {
      "Two applications, or a source and an application, side by side.",
      "Without --show: how many are on both sides, and how far the two agree."
    },
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb compare hr directory",
      "  ebb compare hr directory --show left-only",
      "  ebb compare directory mail-house --show differs --attribute title"
    })
final class CompareCommand implements Runnable {
  private static final String PATH = "/api/v1/comparison";

  @ParentCommand private Main main;

  @Parameters(index = "0", paramLabel = "LEFT", description = "an application or a source")
  private String left;

  @Parameters(index = "1", paramLabel = "RIGHT", description = "another")
  private String right;

  @Option(names = "--show", description = "all, both, left-only, right-only or differs")
  private String part;

  @Option(names = "--attribute", description = "with differs: only where this one does")
  private String attribute;

  @Option(names = "--limit", defaultValue = "50")
  private int limit;

  @Override
  public void run() {
    var sides = "?left=" + Service.encoded(left) + "&right=" + Service.encoded(right);
    if (part == null) {
      summary(main.service().get(PATH + sides, ComparisonView.class));
    } else {
      people(sides);
    }
  }

  private void summary(ComparisonView found) {
    var out = main.output();
    out.one(
        found,
        () -> {
          out.line("on both sides      %d", found.both());
          out.line("in %s alone: %d", found.left(), found.leftOnly());
          out.line("in %s alone: %d", found.right(), found.rightOnly());
          if (found.leftOfNobody() + found.rightOfNobody() > 0) {
            out.line(
                "of nobody: %d in %s, %d in %s, %d with one login in both",
                found.leftOfNobody(),
                found.left(),
                found.rightOfNobody(),
                found.right(),
                found.alikeOfNobody());
          }
          out.table(
              Listing.whole(found.attributes()),
              "Both know no attribute.",
              List.of(
                  column("ATTRIBUTE", AgreementView::attribute),
                  column("SAME", AgreementView::same),
                  column("DIFFER", AgreementView::differ),
                  column("EMPTY LEFT", AgreementView::leftEmpty),
                  column("EMPTY RIGHT", AgreementView::rightEmpty)));
        });
  }

  private void people(String sides) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH
                        + "/people"
                        + sides
                        + "&part="
                        + Service.encoded(part)
                        + (attribute == null ? "" : "&attribute=" + Service.encoded(attribute)),
                    ComparedView.class,
                    limit),
            "Nobody.",
            List.of(
                column("PERSON", ComparedView::person),
                column("NAME", ComparedView::displayName),
                column(left.toUpperCase(Locale.ROOT), one -> orDash(one.left())),
                column(right.toUpperCase(Locale.ROOT), one -> orDash(one.right())),
                column(
                    "DIFFERS",
                    one ->
                        one.differing().stream()
                            .map(
                                value ->
                                    "%s: %s / %s"
                                        .formatted(value.attribute(), value.left(), value.right()))
                            .collect(Collectors.joining("; ")))));
  }

  private static String orDash(String name) {
    return name == null ? "-" : name;
  }
}
