package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.ComingView;
import ebb.api.ForecastView;
import ebb.api.ForecastView.DayCountView;
import ebb.api.ForecastView.DayView;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    name = "forecast",
    mixinStandardHelpOptions = true,
    description = "What dates alone will bring: day by day, or one day for each person.",
    footerHeading = "%nExample:%n",
    footer = {"  ebb forecast --days 30", "  ebb forecast 2027-05-01"})
final class ForecastCommand implements Runnable {
  private static final String PATH = "/api/v1/forecast";

  @ParentCommand private Main main;

  @Parameters(paramLabel = "DAY", arity = "0..1", description = "whom this day concerns, and how")
  private LocalDate day;

  @Option(names = "--days", paramLabel = "DAYS", description = "how far to look; usually 92")
  private Integer days;

  @Option(names = "--application", paramLabel = "NAME", description = "in one application only")
  private String application;

  @Override
  public void run() {
    if (day == null) {
      calendar();
    } else {
      main.output()
          .list(
              main.service().list(path(PATH + "/" + day, null), ComingView.class, 10_000),
              "Nothing happens by itself on that day.",
              List.of(
                  column("PERSON", ComingView::person),
                  column("NAME", ComingView::displayName),
                  column("UNIT", one -> one.department() == null ? "" : one.department()),
                  column("WHAT", ForecastCommand::words)));
    }
  }

  private void calendar() {
    var forecast = main.service().get(path(PATH, days), ForecastView.class);
    var out = main.output();
    out.one(
        forecast,
        () -> {
          out.line("From %s to %s, by dates alone:", forecast.from(), forecast.until());
          forecast
              .days()
              .forEach(
                  one ->
                      out.line(
                          "  %s  %4d people  %s%s",
                          one.day(),
                          one.people(),
                          one.counts().stream()
                              .map(ForecastCommand::words)
                              .collect(Collectors.joining(", ")),
                          costs(one)));
          forecast
              .amiss()
              .forEach(
                  one ->
                      out.line(
                          "  As %s is now, it would not take this: %s %s",
                          one.application(), one.problem().what(), one.problem().remedy()));
          if (forecast.days().isEmpty()) {
            out.line("  nothing");
          }
          forecast
              .seats()
              .forEach(
                  seat ->
                      out.line(
                          "  seats of %s, %s: %d taken, %d freed",
                          seat.application(), seat.seat(), seat.more(), seat.fewer()));
        });
  }

  private static String costs(DayView day) {
    return day.costs().stream()
        .map(one -> "; %+,.2f %s a month".formatted(one.amount(), one.currency()))
        .collect(Collectors.joining());
  }

  private static String words(DayCountView count) {
    return "%d %s in %s".formatted(count.count(), count.kind(), count.application());
  }

  private static String words(ComingView one) {
    return one.steps().stream()
        .map(step -> step.application() + ": " + step.words())
        .collect(Collectors.joining("; "));
  }

  private String path(String path, Integer days) {
    var query =
        (days == null ? "" : "&days=" + days)
            + (application == null ? "" : "&application=" + Service.encoded(application));
    return query.isEmpty() ? path : path + "?" + query.substring(1);
  }
}
