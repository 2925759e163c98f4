package ebb.service.feeds;

import ebb.api.FeedEdit;
import ebb.api.FeedRunView;
import ebb.api.FeedTokenView;
import ebb.api.FeedView;
import ebb.api.ImportView;
import ebb.api.Listing;
import ebb.core.feed.Feed;
import ebb.core.feed.FeedRun;
import ebb.core.feed.Origin;
import ebb.core.feed.Timetable;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.Source;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.imports.Deliveries;
import ebb.service.push.PushSources;
import ebb.service.push.PushedPuller;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.feeds.Feeds;
import ebb.store.imports.Imports;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Sources;
import ebb.store.push.Resources;
import java.security.Principal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.hibernate.StatelessSession;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.scheduling.support.CronExpression;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/feeds")
class FeedController {
  private final Database database;
  private final BusinessClock clock;
  private final Feeds feeds;
  private final Sources sources;
  private final Imports imports;
  private final FeedRunner runner;
  private final FeedSchedule schedule;
  private final Deliveries deliveries;
  private final PushSources pushes;
  private final PushedPuller pushed;
  private final SecretBox secrets;
  private final Journal journal;
  private final String publicAddress;

  FeedController(
      Database database,
      BusinessClock clock,
      Feeds feeds,
      Sources sources,
      Imports imports,
      FeedRunner runner,
      FeedSchedule schedule,
      Deliveries deliveries,
      PushSources pushes,
      PushedPuller pushed,
      SecretBox secrets,
      Journal journal,
      @Value("${ebb.public-address}") String publicAddress) {
    this.database = database;
    this.clock = clock;
    this.feeds = feeds;
    this.sources = sources;
    this.imports = imports;
    this.runner = runner;
    this.schedule = schedule;
    this.deliveries = deliveries;
    this.pushes = pushes;
    this.pushed = pushed;
    this.secrets = secrets;
    this.journal = journal;
    this.publicAddress = publicAddress;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<FeedView> list() {
    return database.read(
        session ->
            Listing.whole(feeds.list(session).stream().map(feed -> view(session, feed)).toList()));
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{source}")
  ResponseEntity<FeedView> show(@PathVariable String source) {
    var view = database.read(session -> view(session, get(session, source)));
    return Requests.tagged(view.version(), view);
  }

  /** Sets a feed up, as a draft, or changes how it is set up. Nothing is read yet. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{source}")
  ResponseEntity<FeedView> put(
      @PathVariable String source,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody FeedEdit edit,
      Principal principal) {
    var problems = new ArrayList<Problem>();
    if (!Source.isName(source)) {
      problems.add(Source.nameInvalid(source));
    }
    var origin = origin(edit, problems);
    var timetable = timetable(edit, problems);
    var missing = missing(edit);
    if (origin.kind() == Origin.Kind.PUSH && edit.complete()) {
      problems.add(pushedIsNeverComplete());
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    var kept =
        database.write(
            session -> {
              var old = feeds.get(session, source);
              long version = old.map(Feed::version).orElse(0L);
              Requests.expect("Feed " + source, Requests.version(ifMatch), version);
              var feed =
                  new Feed(
                      source,
                      origin,
                      timetable,
                      edit.complete(),
                      missing,
                      old.map(Feed::state).orElse(Feed.State.DRAFT),
                      version);
              feeds.put(session, feed, edit.secret() == null ? null : secrets.seal(edit.secret()));
              if (origin.kind() == Origin.Kind.PUSH) {
                pushes.mapped(session, source);
              }
              journal.write(
                  session,
                  clock.instant(),
                  Deed.of(
                      principal.getName(),
                      (version == 0 ? "set up feed " : "edited feed ") + source));
              return feed;
            });
    schedule.put(kept);
    return show(source);
  }

  /**
   * Makes the token by which whoever pushes to a feed shows who it is. It is shown once; the one
   * before ends with it.
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping("/{source}/token")
  FeedTokenView token(@PathVariable String source, Principal principal) {
    var token = "ebbpush_" + SecretBox.randomText();
    database.writeAll(
        session -> {
          var feed = get(session, source);
          if (feed.origin().kind() != Origin.Kind.PUSH) {
            throw Refusal.conflict(notPushed(feed));
          }
          feeds.putToken(session, source, SecretBox.hash(token));
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), "made a token for feed " + source));
        });
    return new FeedTokenView(source, token, publicAddress + "/scim/v2");
  }

  /** Switches a feed on: its deliveries come in by themselves from now. */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping("/{source}/on")
  ResponseEntity<FeedView> on(@PathVariable String source, Principal principal) {
    var on = turn(source, Feed.State.ON, "switched on feed ", principal);
    runner.forgetTest(source, principal.getName());
    return on;
  }

  /** Lets a feed rest: nothing comes in by itself, and nothing is late. */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping("/{source}/pause")
  ResponseEntity<FeedView> pause(@PathVariable String source, Principal principal) {
    return turn(source, Feed.State.PAUSED, "paused feed ", principal);
  }

  private ResponseEntity<FeedView> turn(
      String source, Feed.State state, String deed, Principal principal) {
    var turned =
        database.write(
            session -> {
              var feed = get(session, source).in(state);
              if (state == Feed.State.ON && !isMapped(session, source)) {
                throw Refusal.conflict(unmapped(source));
              }
              feeds.put(session, feed, null);
              feeds.note(session, source, null, clock.instant());
              journal.write(session, clock.instant(), Deed.of(principal.getName(), deed + source));
              return feed;
            });
    schedule.put(turned);
    return show(source);
  }

  /** Looks for a delivery now; what comes of it stands in the history. */
  @Allowed(Act.IMPORT)
  @PostMapping("/{source}/run")
  ResponseEntity<FeedView> run(@PathVariable String source, Principal principal) {
    var feed = database.read(session -> get(session, source));
    var isDraftOfPushes = feed.origin().kind() == Origin.Kind.PUSH && feed.state() != Feed.State.ON;
    if (feed.origin().kind().isPulled() && !isDraftOfPushes) {
      Thread.ofVirtual()
          .name("feed-" + source)
          .start(
              () ->
                  runner.pull(source, new FeedRunner.Why(FeedRun.Cause.HAND, principal.getName())));
    } else if (feed.state() != Feed.State.ON) {
      throw Refusal.conflict(notOn(feed));
    }
    var view = database.read(session -> view(session, feed));
    return ResponseEntity.status(HttpStatus.ACCEPTED).body(view);
  }

  /**
   * Reads what there is now, and shows what would follow. Nothing is released by itself, and
   * nothing is sent to any application; what is shown can be released or discarded as any import.
   *
   * @param expected how many rows somebody expects; another number stops it
   */
  @Allowed(Act.IMPORT)
  @PostMapping("/{source}/test")
  ImportView test(
      @PathVariable String source,
      @RequestParam(required = false) Long expected,
      Principal principal) {
    return deliveries.view(runner.test(source, principal.getName()), expected);
  }

  /** Looks that found something or something amiss, newest first. */
  @Allowed(Act.SEE_IMPORTS)
  @GetMapping("/{source}/runs")
  Listing<FeedRunView> runs(
      @PathVariable String source,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session -> {
          get(session, source);
          var page = feeds.runs(session, source, Requests.cursor(cursor), Requests.limit(limit));
          return Requests.listing(page, run -> view(session, run));
        });
  }

  private Feed get(StatelessSession session, String source) {
    return feeds
        .get(session, source)
        .orElseThrow(() -> Refusal.notFound("feed", source, "See: ebb feeds list"));
  }

  private boolean isMapped(StatelessSession session, String source) {
    return sources.get(session, source).filter(one -> one.mapping() != null).isPresent();
  }

  private static Origin origin(FeedEdit edit, List<Problem> problems) {
    var origin =
        new Origin(
            Requests.word(Origin.Kind.class, Requests.required(edit.kind(), "kind"), "kind"),
            new TreeMap<>(edit.settings() == null ? Map.of() : edit.settings()));
    problems.addAll(origin.problems());
    return origin;
  }

  private static Timetable timetable(FeedEdit edit, List<Problem> problems) {
    var cron = edit.cron() == null || edit.cron().isBlank() ? null : edit.cron().strip();
    if (cron != null && !CronExpression.isValidExpression(cron)) {
      problems.add(
          new Problem(
              "cron-invalid",
              "%s is no timetable.".formatted(cron),
              "It has six parts: seconds, minutes, hours, days, months and weekdays.",
              "Write 0 30 5 * * * for half past five each morning, 0 0 6 * * MON-FRI for six on"
                  + " workdays.",
              Where.field("cron")));
    }
    ZoneId zone = null;
    try {
      zone = edit.zone() == null || edit.zone().isBlank() ? null : ZoneId.of(edit.zone());
    } catch (DateTimeException _) {
      problems.add(
          new Problem(
              "zone-invalid",
              "%s is no time zone.".formatted(edit.zone()),
              "Its times could not be told.",
              "Name one as in Europe/Oslo.",
              Where.field("zone")));
    }
    return new Timetable(
        cron,
        zone,
        edit.blackouts() == null ? null : new TreeSet<>(edit.blackouts()),
        edit.graceMinutes() == null ? null : Duration.ofMinutes(edit.graceMinutes()));
  }

  private static Missing.Decision missing(FeedEdit edit) {
    var missing = Requests.word(Missing.Decision.class, edit.missing(), "missing");
    return missing == null ? Missing.Decision.UNDECIDED : missing;
  }

  private FeedView view(StatelessSession session, Feed feed) {
    var trouble = feeds.trouble(session, feed.source());
    var timetable = feed.timetable();
    return new FeedView(
        feed.source(),
        feed.origin().kind().word(),
        feed.origin().settings(),
        feeds.secret(session, feed.source()).isPresent() || feeds.hasToken(session, feed.source()),
        timetable.cron(),
        timetable.zone() == null ? null : timetable.zone().getId(),
        timetable.blackouts(),
        Math.toIntExact(timetable.grace().toMinutes()),
        feed.complete(),
        feed.missing().word(),
        feed.state().word(),
        isMapped(session, feed.source()),
        schedule.next(feed.source()).orElse(null),
        feeds.last(session, feed.source()).map(run -> view(session, run)).orElse(null),
        Problems.view(trouble.map(Feeds.Trouble::problem).orElse(null)),
        trouble.map(Feeds.Trouble::since).orElse(null),
        waiting(session, feed),
        feed.version());
  }

  private Long waiting(StatelessSession session, Feed feed) {
    return feed.origin().kind() == Origin.Kind.PUSH
        ? pushed
            .waiting(session, feed.source(), feeds.mark(session, feed.source()).orElse(null))
            .map(Resources.Waiting::count)
            .orElse(0L)
        : null;
  }

  private FeedRunView view(StatelessSession session, FeedRun run) {
    var made = run.made() == null ? Optional.<Import>empty() : imports.get(session, run.made());
    return new FeedRunView(
        run.id(),
        run.source(),
        run.cause().word(),
        run.outcome().word(),
        run.file(),
        made.map(Import::id).orElse(null),
        made.map(Import::counts).orElse(Map.of()),
        made.map(Import::changeSet).orElse(null),
        Problems.view(run.problem()),
        run.by(),
        run.startedAt(),
        run.endedAt());
  }

  private static Problem unmapped(String source) {
    return new Problem(
        "feed-not-mapped",
        "Nobody has said yet what the columns of %s mean.".formatted(source),
        "Its first delivery would only ask.",
        "Test it, say what its columns mean, and switch it on then.",
        null);
  }

  private static Problem pushedIsNeverComplete() {
    return new Problem(
        "feed-push-complete",
        "What is pushed names whoever changed, and never everybody.",
        "Everybody else would be missing.",
        "Leave complete out; whoever is deleted there is asked about.",
        Where.field("complete"));
  }

  private static Problem notPushed(Feed feed) {
    return new Problem(
        "feed-not-pushed",
        "Nobody pushes to feed %s.".formatted(feed.source()),
        "Its deliveries come by %s.".formatted(feed.origin().kind().word()),
        "Set up a feed of the kind push; or give this one its secret.",
        null);
  }

  private static Problem notOn(Feed feed) {
    return new Problem(
        "feed-not-on",
        "Feed %s is %s.".formatted(feed.source(), feed.state().word()),
        "Its deliveries are taken in as they come, once it is on.",
        "Switch it on; or test it, which takes nothing away.",
        null);
  }
}
