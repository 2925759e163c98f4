package ebb.cli;

import static ebb.cli.Output.column;

import ebb.api.AttemptView;
import ebb.api.ChangeSetView;
import ebb.api.ChangeView;
import ebb.api.CountView;
import ebb.api.EffectsView;
import ebb.api.EffectsView.EffectView;
import ebb.api.EffectsView.LosingView;
import ebb.api.EffectsView.StayingView;
import ebb.api.ReleaseRequest;
import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.ParentCommand;

@Command(
    addMethodSubcommands = false,
    name = "changes",
    mixinStandardHelpOptions = true,
    description = "Change sets: look, release, follow, retry, take back.",
    footerHeading = "%nExamples:%n",
    footer = {
      "  ebb changes list --state shown",
      "  ebb changes show 3 --all",
      "  ebb changes release 3",
      "  ebb changes take-back 3"
    })
final class ChangesCommand {
  private static final String PATH = "/api/v1/change-sets";

  @ParentCommand private Main main;

  @Command(mixinStandardHelpOptions = true, description = "Change sets, newest first.")
  void list(
      @Option(names = "--state", description = "shown, releasing, released or discarded")
          String state,
      @Option(names = "--limit", defaultValue = "20") int limit) {
    main.output()
        .list(
            main.service()
                .list(
                    PATH + (state == null ? "" : "?state=" + Service.encoded(state)),
                    ChangeSetView.class,
                    limit),
            "No such change sets.",
            List.of(
                column("ID", ChangeSetView::id),
                column("TITLE", ChangeSetView::title),
                column(
                    "STATE",
                    set ->
                        set.stops().isEmpty() || !set.state().equals("shown")
                            ? set.state()
                            : "stopped"),
                column("CHANGES", set -> counts(set)),
                column("RELEASED BY", ChangeSetView::releasedBy),
                column("WHEN", set -> Text.time(set.createdAt()))));
  }

  private static String counts(ChangeSetView set) {
    return set.counts().stream()
        .filter(count -> !count.state().equals("withdrawn"))
        .collect(Collectors.groupingBy(CountView::state, Collectors.summingLong(CountView::count)))
        .entrySet()
        .stream()
        .map(count -> count.getValue() + " " + count.getKey())
        .collect(Collectors.joining(", "));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What people gain and lose by a set, and what the accounts own that are lost.")
  void effects(@Parameters(paramLabel = "ID") long id) {
    var effects = main.service().get(PATH + "/" + id + "/effects", EffectsView.class);
    var out = main.output();
    out.one(
        effects,
        () -> {
          if (effects.effects().isEmpty()) {
            out.line("Nobody gains or loses anything by it.");
          }
          effects.effects().forEach(one -> out.line("  %s", words(one)));
          effects.losing().forEach(one -> out.line("  %s", words(one)));
          effects.staying().forEach(one -> out.line("  %s", words(one)));
        });
  }

  private static String words(EffectView one) {
    return "%-16s %-28s %5d gain it  %5d lose it"
        .formatted(
            one.application(),
            one.name() == null ? one.what() : one.what() + " " + one.name(),
            one.gain(),
            one.loss());
  }

  private static String words(LosingView one) {
    if (one.owned() == null) {
      return "%s in %s: what it owns is not known".formatted(one.displayName(), one.application());
    }
    var owned =
        one.owned().stream()
            .map(kind -> "%d %s".formatted(kind.items(), kind.kind()))
            .collect(Collectors.joining(", "));
    return "%s in %s owns %s"
        .formatted(one.displayName(), one.application(), owned.isEmpty() ? "nothing" : owned);
  }

  private static String words(StayingView one) {
    if (one.items() == null) {
      return "%s in %s: what was made for it earlier is not known"
          .formatted(one.group(), one.application());
    }
    return "%s in %s: %s%d made for it earlier stay as they are: %s. Afterwards: ebb groups earlier-items %s"
        .formatted(
            one.group(),
            one.application(),
            one.more() ? "more than " : "",
            one.items(),
            String.join(", ", one.some()) + (one.items() > one.some().size() ? " …" : ""),
            one.group());
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "One change set, in short or with each change.")
  void show(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--all", description = "each change, with its values") boolean all,
      @Option(names = "--application") String application,
      @Option(names = "--state", description = "seen, queued, refused …") String state,
      @Option(names = "--limit", defaultValue = "200") int limit) {
    if (!all && application == null && state == null) {
      new Sets(main).show(main.service().get(PATH + "/" + id, ChangeSetView.class));
      return;
    }
    var query =
        (application == null ? "" : "&application=" + Service.encoded(application))
            + (state == null ? "" : "&state=" + Service.encoded(state));
    main.output()
        .list(
            main.service()
                .list(
                    PATH
                        + "/"
                        + id
                        + "/changes"
                        + (query.isEmpty() ? "" : "?" + query.substring(1)),
                    ChangeView.class,
                    limit),
            "No such changes.",
            List.of(
                column("ID", ChangeView::id),
                column("WHO", ChangeView::displayName),
                column("WHERE", ChangeView::application),
                column("WHAT", change -> what(change)),
                column("WHY", ChangeView::ground),
                column("STATE", ChangeView::state),
                column(
                    "",
                    change ->
                        change.problem() == null
                            ? ""
                            : change.problem().what() + " " + change.problem().remedy())));
  }

  private static String what(ChangeView change) {
    return change.kind().equals("update")
        ? change.edits().stream()
            .map(
                edit ->
                    "%s: %s -> %s"
                        .formatted(
                            edit.attribute(),
                            Text.orDash(edit.before()),
                            Text.orDash(edit.after())))
            .collect(Collectors.joining("; "))
        : change.what();
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Let a change set through, and follow it.")
  void release(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--reason", description = "lets a guard stop pass; goes into the journal")
          String reason,
      @Option(names = "--first", description = "only so many people; the rest stays shown")
          Integer first,
      @Option(names = "--person", description = "only this person; may be given again")
          List<Long> people,
      @Option(names = "--no-wait", description = "do not follow it") boolean noWait) {
    new Sets(main).release(id, new ReleaseRequest(reason, first, people), !noWait);
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Follow a change set until nothing is under way.")
  void follow(@Parameters(paramLabel = "ID") long id) {
    var sets = new Sets(main);
    sets.show(sets.follow(id));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "Give a change set up before its release.")
  void discard(@Parameters(paramLabel = "ID") long id) {
    new Sets(main)
        .show(main.service().post(PATH + "/" + id + "/discard", null, ChangeSetView.class));
  }

  @Command(
      mixinStandardHelpOptions = true,
      description = "What was sent for one change, and what came back; newest try first.")
  void sent(@Parameters(paramLabel = "CHANGE") long change) {
    var out = main.output();
    var tries =
        main.service().list("/api/v1/changes/" + change + "/attempts", AttemptView.class, 50);
    out.one(
        tries,
        () -> {
          if (tries.items().isEmpty()) {
            out.line(
                "Nothing is kept of change %d: nothing went over the web, or long ago.", change);
          }
          tries.items().forEach(one -> attempt(out, one));
        });
  }

  private static void attempt(Output out, AttemptView attempt) {
    out.line("Try %d, then %s", attempt.number(), attempt.outcome());
    for (var one : attempt.exchanges()) {
      out.line(
          "  %s, %d ms",
          Text.time(one.askedAt()), Duration.between(one.askedAt(), one.answeredAt()).toMillis());
      one.request().lines().forEach(line -> out.line("    > %s", line));
      one.answer().lines().forEach(line -> out.line("    < %s", line));
    }
  }

  @Command(mixinStandardHelpOptions = true, description = "Try again what was refused.")
  void retry(@Parameters(paramLabel = "ID") long id) {
    var sets = new Sets(main);
    main.service().post(PATH + "/" + id + "/retry", null, ChangeSetView.class);
    sets.show(sets.follow(id));
  }

  @Command(
      name = "go-on",
      mixinStandardHelpOptions = true,
      description = "Let a run go on that stopped because too much of it was refused.")
  void goOn(@Parameters(paramLabel = "ID") long id) {
    var sets = new Sets(main);
    main.service().post(PATH + "/" + id + "/go-on", null, ChangeSetView.class);
    sets.show(sets.follow(id));
  }

  @Command(
      name = "take-back",
      mixinStandardHelpOptions = true,
      description = "Show, as a new set, what taking this one back would do.")
  void takeBack(
      @Parameters(paramLabel = "ID") long id,
      @Option(names = "--release", description = "release at once") boolean release) {
    var before = main.service().get(PATH + "/" + id, ChangeSetView.class);
    var sets = new Sets(main);
    var set = main.service().post(PATH + "/" + id + "/take-back", null, ChangeSetView.class);
    if (main.output().isForPeople()) {
      before.cannotBeTakenBack().forEach(lasting -> main.output().line("Stays: %s", lasting));
    }
    sets.shown(set, release);
  }
}
