package ebb.cli;

import ebb.api.ChangeSetView;
import ebb.api.CountView;
import ebb.api.ReleaseRequest;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** What commands have in common that show and release change sets. */
final class Sets {
  private final Main main;
  private final Service service;
  private final Output output;

  Sets(Main main) {
    this.main = main;
    this.service = main.service();
    this.output = main.output();
  }

  /** Shows a set just proposed, and releases it if that was asked for. */
  void shown(ChangeSetView proposed, boolean release) {
    var set = proposed.progress() == null ? proposed : follow(proposed.id());
    if (release) {
      release(set.id(), new ReleaseRequest(null, null, null), true);
    } else {
      show(set);
    }
  }

  void release(long id, ReleaseRequest request, boolean wait) {
    var released =
        service.post("/api/v1/change-sets/%d/release".formatted(id), request, ChangeSetView.class);
    if (wait) {
      show(follow(id));
    } else {
      show(released);
    }
  }

  /** Follows a set until nothing of it is under way, or what is left waits for an application. */
  ChangeSetView follow(long id) {
    var last = new ChangeSetView[1];
    service.follow(
        "/api/v1/change-sets/%d/events".formatted(id),
        event -> {
          last[0] = Service.JSON.treeToValue(event, ChangeSetView.class);
          if (output.isForPeople()) {
            main.err().print("\r" + progress(last[0]) + "   ");
            main.err().flush();
          }
        });
    if (output.isForPeople()) {
      main.err().print("\r" + " ".repeat(60) + "\r");
      main.err().flush();
    }
    return last[0];
  }

  private static String progress(ChangeSetView set) {
    if (set.progress() != null) {
      return Progressing.words(set.progress(), "people");
    }
    long all = set.counts().stream().mapToLong(CountView::count).sum();
    long done = count(set, List.of("seen", "accepted", "overtaken"));
    return "%d of %d done".formatted(done, all);
  }

  void show(ChangeSetView set) {
    output.one(set, () -> text(set));
  }

  private void text(ChangeSetView set) {
    output.line("Change set %d: %s", set.id(), set.title());
    output.line("  %s", state(set));
    lines(set).forEach(line -> output.line("  %s", line));
    set.stops()
        .forEach(
            stop -> {
              output.line("  STOPPED  %s", stop.what());
              output.line("           %s", stop.why());
              output.line("           %s", stop.remedy());
            });
    set.remarks()
        .forEach(
            one -> {
              output.line("  KNOW     %s", one.what());
              output.line("           %s", one.why());
              output.line("           %s", one.remedy());
            });
    set.troubles()
        .forEach(
            trouble -> {
              output.line(
                  "  %d %s in %s: %s",
                  trouble.count(),
                  waiting(trouble.state()),
                  trouble.application(),
                  trouble.problem().what());
              output.line("    %s", trouble.problem().remedy());
              if (trouble.nextTry() != null) {
                output.line("    next try %s", Text.time(trouble.nextTry()));
              }
            });
    next(set);
  }

  private static String waiting(String state) {
    return switch (state) {
      case "queued", "claimed" -> "waiting";
      case "unsure" -> "to be looked up";
      default -> state;
    };
  }

  private static String state(ChangeSetView set) {
    var by =
        set.releasedBy() == null
            ? ""
            : " by %s, %s".formatted(set.releasedBy(), Text.time(set.releasedAt()));
    var back = set.takenBackBy() == null ? "" : "; taken back by set " + set.takenBackBy();
    return switch (set.state()) {
      case "shown" ->
          "shown; nothing of it is written" + (set.releasedBy() == null ? "" : " that still waits");
      default -> set.state() + by + back;
    };
  }

  /** One line per application and kind: "directory create 418: 410 seen, 8 queued". */
  private static List<String> lines(ChangeSetView set) {
    if (set.counts().stream().allMatch(count -> count.state().equals("withdrawn"))) {
      return List.of("nothing to change in any application");
    }
    var groups =
        set.counts().stream()
            .filter(count -> !count.state().equals("withdrawn"))
            .collect(
                Collectors.groupingBy(
                    count ->
                        "%-18s %-9s".formatted(count.application(), count.kind().replace('-', ' ')),
                    TreeMap::new,
                    Collectors.toList()));
    return groups.entrySet().stream()
        .map(
            group ->
                "%s %5d  %s"
                    .formatted(
                        group.getKey(),
                        group.getValue().stream().mapToLong(CountView::count).sum(),
                        group.getValue().stream()
                            .map(count -> count.count() + " " + count.state())
                            .collect(Collectors.joining(", "))))
        .toList();
  }

  private void next(ChangeSetView set) {
    if (set.state().equals("shown")) {
      output.line("  Look closer: ebb changes show %d --all", set.id());
      output.line(
          !set.stops().isEmpty()
              ? "  If it is right: ebb changes release %1$d --reason WHY"
              : set.rules().isEmpty()
                  ? "  Let it through: ebb changes release %1$d      Try a few: ebb changes release %1$d --first 2"
                  : "  Let it through, and the rule is in force: ebb changes release %1$d",
          set.id());
      output.line("  Give it up: ebb changes discard %d", set.id());
    } else if (count(set, List.of("halted")) > 0) {
      output.line("  It stopped by itself: too much of it was refused. Mend the cause, then");
      output.line("    try the failures again: ebb changes retry %d", set.id());
      output.line("    let the rest go on: ebb changes go-on %d", set.id());
    } else if (count(set, List.of("refused", "blocked")) > 0) {
      output.line("  Try the failures again: ebb changes retry %d", set.id());
    } else if (set.progress() != null || count(set, List.of("queued", "claimed", "unsure")) > 0) {
      output.line("  It goes on by itself. Follow it: ebb changes follow %d", set.id());
      output.line("  What keeps an application from going on: ebb execution show");
    }
  }

  private static long count(ChangeSetView set, List<String> states) {
    return set.counts().stream()
        .filter(count -> states.contains(count.state()))
        .mapToLong(CountView::count)
        .sum();
  }
}
