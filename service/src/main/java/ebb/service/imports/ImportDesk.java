package ebb.service.imports;

import ebb.connectors.file.Bundle;
import ebb.connectors.file.Tables;
import ebb.core.change.Cause;
import ebb.core.imports.Format;
import ebb.core.imports.Import;
import ebb.core.imports.Mapping;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import ebb.core.imports.Source;
import ebb.core.imports.Stage;
import ebb.core.imports.Suggestions;
import ebb.core.imports.Suggestions.Suggested;
import ebb.core.imports.Terms;
import ebb.core.person.Catalogue;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.limits.LimitBook;
import ebb.service.notices.OperatorNotices;
import ebb.service.time.BusinessClock;
import ebb.service.turns.OneAtATime;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.imports.Imports;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.PeopleLists;
import ebb.store.people.Sources;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Takes files in. What a file is and where it comes from is found out at once, and asked about only
 * where it cannot be; reading goes on by itself, and is taken up again after a stop.
 */
@Component
final class ImportDesk implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(ImportDesk.class);

  /** Reading is work for the processor; more at once would only slow each other. */
  private static final int AT_ONCE = 2;

  private static final int SAMPLE = 500;
  private static final int MOST_UNITS = 5_000;
  private static final int PACE_OF = 10;
  private static final int MOST_NAMED = 10;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final Sources sources;
  private final People people;
  private final PeopleLists lists;
  private final Imports imports;
  private final OwnAttributes attributes;
  private final Uploads uploads;
  private final LinkedFiles linked;
  private final LimitBook limits;
  private final OperatorNotices operatorNotices;
  private final Journal journal;
  private final OneAtATime oneAtATime;
  private final Expressions expressions = new Expressions();
  private final ExecutorService readers =
      Executors.newThreadPerTaskExecutor(Thread.ofPlatform().name("import-", 0).factory());
  private final Semaphore places = new Semaphore(AT_ONCE);
  private final Map<Long, Progress> progress = new ConcurrentHashMap<>();
  private final Map<Long, CompletableFuture<Import>> running = new ConcurrentHashMap<>();

  ImportDesk(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      Sources sources,
      People people,
      PeopleLists lists,
      Imports imports,
      OwnAttributes attributes,
      Uploads uploads,
      LinkedFiles linked,
      LimitBook limits,
      OperatorNotices operatorNotices,
      Journal journal,
      OneAtATime oneAtATime) {
    this.oneAtATime = oneAtATime;
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.sources = sources;
    this.people = people;
    this.lists = lists;
    this.imports = imports;
    this.attributes = attributes;
    this.uploads = uploads;
    this.linked = linked;
    this.limits = limits;
    this.operatorNotices = operatorNotices;
    this.journal = journal;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("imports", (long) running.size());
  }

  /**
   * What somebody says of a file; null for what they leave to be found out.
   *
   * @param name of the file
   */
  record Said(
      String name,
      String source,
      Terms terms,
      String charset,
      String separator,
      String sheet,
      Instant writtenAt,
      boolean isFeed) {
    /** The same, said of a file within the bundle. What was packed on the way is no archive. */
    Said within(Path file) {
      var called = file.getFileName().toString();
      return new Said(
          name.endsWith(".zip") ? name + "/" + called : called,
          source,
          terms,
          charset,
          separator,
          sheet,
          writtenAt,
          isFeed);
    }
  }

  /**
   * Takes a file in. It is read at once if its columns are those of a source; otherwise somebody
   * has to say what they mean.
   *
   * @throws Refusal if it is no table, or not of the source that was named
   */
  Import add(Uploads.Upload upload, Said said, String by) throws IOException {
    if (!Bundle.isOne(upload.path())) {
      return add(upload, upload.path(), said, null, by);
    }
    try (var unpacked = uploads.folder()) {
      var people = Bundles.unpack(upload.path(), said.name(), unpacked.folder());
      return people.isEmpty()
          ? addWithoutPeople(upload, said, unpacked, by)
          : add(upload, people.get(), said.within(people.get()), unpacked, by);
    }
  }

  /** Files linked to people known already; nothing in them says whose they are. */
  private Import addWithoutPeople(
      Uploads.Upload upload, Said said, Uploads.Unpacked unpacked, String by) throws IOException {
    if (said.source() == null) {
      throw Refusal.invalid(sourceNeeded(said.name()));
    }
    var made = begin(upload, said, null, named(said.source()).orElseThrow().name(), by);
    uploads.handLinked(unpacked, made.id());
    return start(made);
  }

  private Import add(
      Uploads.Upload upload, Path people, Said said, Uploads.Unpacked unpacked, String by)
      throws IOException {
    var found = Tables.look(people, said.name(), said.charset());
    var format = found.format().corrected(said.charset(), said.separator(), said.sheet());
    var headings = headings(people, said.name(), format);
    Mapping.mustBeDistinct(said.name(), headings);
    var source = said.source() == null ? recognised(headings) : said(said);
    var fit = source.map(one -> one.mapping().fit(headings));
    if (said.source() != null && fit.filter(Mapping.Fit.ANOTHER_FILE::equals).isPresent()) {
      source.get().mapping().layout(said.name(), headings, catalogue(), expressions);
    }
    var isKnown = fit.filter(Mapping.Fit.WHOLE::equals).isPresent();
    var made = begin(upload, said, format, source.map(Source::name).orElse(said.source()), by);
    uploads.hand(people, made.id());
    if (unpacked != null) {
      uploads.handLinked(unpacked, made.id());
    }
    return isKnown ? start(made) : ask(made, question(made, source, headings));
  }

  /** Empty for one of which nobody has said yet what its columns mean: the file begins it. */
  private Optional<Source> said(Said said) {
    if (!Source.isName(said.source())) {
      throw Refusal.invalid(Source.nameInvalid(said.source()));
    }
    return database
        .read(session -> sources.get(session, said.source()))
        .filter(source -> source.mapping() != null);
  }

  private List<Problem> question(Import made, Optional<Source> source, List<String> headings) {
    if (source.isPresent()) {
      return List.of(changed(made, source.get(), headings));
    }
    if (made.source() != null) {
      return List.of(unmapped(made));
    }
    var fitting = fitting(Mapping.Fit.WHOLE, headings).stream().map(Source::name).toList();
    return List.of(fitting.isEmpty() ? unmapped(made) : unclear(made, fitting));
  }

  /** How the columns of a file are read now, or might be; and what else could be chosen. */
  record Proposal(
      Import made,
      Source source,
      Suggested suggested,
      List<String> headings,
      List<String> sheets) {}

  /**
   * @param sourceName the source that somebody says it comes from; null for what is known of it
   */
  Proposal proposal(long id, String sourceName) throws IOException {
    var made = get(id);
    var name = sourceName == null ? made.source() : sourceName;
    var path = uploads.of(id).orElseThrow(() -> gone(made));
    var sheets = Tables.look(path, made.file(), made.format().charset()).sheets();
    try (var rows = Tables.open(path, made.file(), made.format())) {
      var suggested =
          Suggestions.of(
              rows.headings(),
              sample(rows),
              catalogue(),
              database.read(session -> lists.units(session, MOST_UNITS)));
      var source =
          name == null
              ? null
              : database
                  .read(session -> sources.get(session, name))
                  .filter(one -> one.mapping() != null)
                  .orElse(null);
      return new Proposal(made, source, suggested, rows.headings(), sheets);
    }
  }

  /**
   * Says how a file is to be read, and reads it. The mapping is kept with its source, under a new
   * version if it is another than before.
   *
   * @throws Refusal if the mapping cannot be used, or the import is released already
   */
  Import settle(long id, String source, Mapping mapping, Format format, Terms terms, String by)
      throws IOException {
    var made = get(id);
    mustBeOpen(made);
    var path = uploads.of(id).orElseThrow(() -> gone(made));
    var problems = new ArrayList<>(mapping.problems(catalogue(), expressions));
    if (!Source.isName(source)) {
      problems.add(Source.nameInvalid(source));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    try (var rows = Tables.open(path, made.file(), format)) {
      mapping.layout(made.file(), rows.headings(), catalogue(), expressions);
    }
    stopReading(made);
    var next = made.as(source, format, terms);
    database.writeAll(
        session -> {
          keep(session, source, mapping, by);
          imports.clearRows(session, id);
          imports.put(session, next);
          if (made.changeSet() != null) {
            proposals.abandon(session, made.changeSet());
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "said how %s is read (import %d)".formatted(made.file(), id)));
        });
    return start(next);
  }

  /**
   * Waits for a reading to end.
   *
   * @return the import as it is then, or as it is when the time is up
   * @throws Refusal if the file could not be taken
   */
  Import await(Import made, Duration longest) {
    var reading = running.get(made.id());
    if (reading != null && longest.isPositive()) {
      try {
        reading.get(longest.toMillis(), TimeUnit.MILLISECONDS);
      } catch (TimeoutException _) {
        // It goes on without the caller, who is told how far it has come.
      } catch (InterruptedException _) {
        Thread.currentThread().interrupt();
      } catch (ExecutionException | CompletionException e) {
        if (e.getCause() instanceof Refusal refusal) {
          forget(made);
          throw refusal;
        }
        throw new IllegalStateException("An import broke off", e.getCause());
      }
    }
    return get(made.id());
  }

  Optional<Progress> progress(long id) {
    return Optional.ofNullable(progress.get(id));
  }

  Catalogue catalogue() {
    return database.read(attributes::catalogue);
  }

  Expressions expressions() {
    return expressions;
  }

  Import get(long id) {
    return database
        .read(session -> imports.get(session, id))
        .orElseThrow(() -> Refusal.notFound("import", id, "See: ebb imports list"));
  }

  /** Before feeds take up their deliveries: they wait for what is being read. */
  @EventListener(ApplicationReadyEvent.class)
  @Order(Ordered.HIGHEST_PRECEDENCE)
  void resume() {
    database.read(imports::broken).stream()
        .filter(made -> made.source() != null)
        .forEach(
            made -> {
              database.writeAll(
                  session -> {
                    imports.clearRows(session, made.id());
                    if (made.changeSet() != null) {
                      proposals.abandon(session, made.changeSet());
                    }
                  });
              start(made.as(made.source(), made.format(), made.terms()));
            });
  }

  @PreDestroy
  void stop() {
    readers.shutdownNow();
  }

  private Import start(Import made) {
    var pace = database.read(session -> imports.pace(session, PACE_OF));
    var one = new Progress((long) (pace.orElse(0) * made.size()));
    progress.put(made.id(), one);
    var reading = new CompletableFuture<Import>();
    running.put(made.id(), reading);
    readers.execute(() -> read(made, one, reading));
    return made;
  }

  private void read(Import made, Progress one, CompletableFuture<Import> reading) {
    try {
      var done = readAlone(made, one);
      over(made, reading);
      reading.complete(done);
    } catch (Refusal refusal) {
      ask(made, refusal.problems());
      over(made, reading);
      reading.completeExceptionally(refusal);
    } catch (IOException | RuntimeException e) {
      LOG.error("Import {} broke off", made.id(), e);
      ask(made, List.of(broke(made)));
      over(made, reading);
      reading.completeExceptionally(e);
    }
  }

  /** Whoever waited must not find it still going on. */
  private void over(Import made, CompletableFuture<Import> reading) {
    progress.remove(made.id());
    running.remove(made.id(), reading);
  }

  /** Keys are numbered, and what is known written, for one file of a source at a time. */
  private Import readAlone(Import made, Progress one) throws IOException {
    return oneAtATime.alone(
        OneAtATime.ofSource(made.source()),
        "the reading of %s (import %d)".formatted(made.file(), made.id()),
        one::waiting,
        () -> readInPlace(made, one));
  }

  /** One that waits for its turn takes no other's place. */
  private Import readInPlace(Import made, Progress one) throws IOException {
    places.acquireUninterruptibly();
    try {
      return read(made, one);
    } finally {
      places.release();
    }
  }

  private Import read(Import made, Progress one) throws IOException {
    var source = named(made.source()).orElseThrow();
    var files =
        new ImportRun.Files(
            uploads.of(made.id()).orElse(null), uploads.linked(made.id()).orElse(null));
    if (files.people() == null && (made.format() != null || files.linked() == null)) {
      throw gone(made);
    }
    var run =
        new ImportRun(
            new ImportRun.Tools(
                database, sources, people, imports, proposals, linked, limits, clock, expressions),
            source,
            made,
            files,
            catalogue(),
            one);
    var set = proposals.begin(cause(made), "import " + made.file(), made.createdBy(), null);
    // A crash must not leave what it began for somebody to release.
    keep(made.into(set.id()));
    try {
      var found = run.read(set.id());
      var checked = keep(made.found(found.counts(), set.id()).at(Stage.CHECKED));
      one.computing();
      proposals.show(set, found.stops(), found.atHand());
      return tell(keep(checked.at(Stage.SHOWN).took(one.tookMillis())));
    } catch (IOException | RuntimeException e) {
      database.writeAll(
          session -> {
            imports.clearRows(session, made.id());
            proposals.abandon(session, set.id());
          });
      throw e;
    }
  }

  private static Cause cause(Import made) {
    return made.createdBy().equals(Releases.BY_ITSELF) ? Cause.FEED : Cause.IMPORT;
  }

  private Import tell(Import made) {
    database.writeAll(
        session ->
            operatorNotices.done(
                session,
                made.createdBy(),
                Duration.ofMillis(made.tookMillis()),
                "%s is read, and waits for its release".formatted(made.file()),
                "/now/imports/" + made.id(),
                clock.instant()));
    return made;
  }

  private Import keep(Import made) {
    database.writeAll(session -> imports.put(session, made));
    return made;
  }

  private Import ask(Import made, List<Problem> questions) {
    return keep(made.asking(questions));
  }

  private void stopReading(Import made) {
    if (running.containsKey(made.id())) {
      throw Refusal.conflict(
          new Problem(
              "import-being-read",
              "Import %d is being read.".formatted(made.id()),
              "Two readings of one file would mix.",
              "Wait until it is shown.",
              null));
    }
  }

  private void mustBeOpen(Import made) {
    if (made.stage() == Stage.RELEASED || made.stage() == Stage.SEEN) {
      throw Refusal.conflict(
          new Problem(
              "import-not-open",
              "Import %d is %s.".formatted(made.id(), made.stage().word()),
              "What was released stays as it was read.",
              "Bring the file in again.",
              null));
    }
  }

  /** Whoever waited was told; nothing is kept of a file that cannot be taken. */
  private void forget(Import made) {
    database.writeAll(session -> imports.delete(session, made.id()));
    uploads.drop(made.id());
  }

  private Import begin(Uploads.Upload upload, Said said, Format format, String source, String by) {
    return database.write(
        session -> {
          var made =
              new Import(
                  imports.number(session),
                  source,
                  said.name(),
                  upload.print(),
                  upload.size(),
                  said.writtenAt(),
                  format,
                  said.terms(),
                  Stage.READ,
                  List.of(),
                  Map.of(),
                  null,
                  null,
                  by,
                  clock.instant());
          imports.put(session, made);
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "brought in %s (import %d)".formatted(said.name(), made.id())));
          return made;
        });
  }

  private void keep(StatelessSession session, String name, Mapping mapping, String by) {
    var old = sources.get(session, name);
    if (old.filter(source -> mapping.equals(source.mapping())).isEmpty()) {
      sources.put(
          session,
          new Source(
              name,
              old.map(Source::rank).orElse(Source.USUAL_RANK),
              Source.Kind.FILE,
              mapping,
              old.map(Source::version).orElse(0L)),
          by,
          clock.instant());
    }
  }

  private List<String> headings(Path file, String name, Format format) throws IOException {
    try (var rows = Tables.open(file, name, format)) {
      return rows.headings();
    }
  }

  private static List<Row> sample(Rows rows) {
    var sample = new ArrayList<Row>();
    for (var row = rows.next(); row.isPresent() && sample.size() < SAMPLE; row = rows.next()) {
      sample.add(row.get());
    }
    return sample;
  }

  private Optional<Source> named(String name) {
    return Optional.of(
        database
            .read(session -> sources.get(session, name))
            .filter(source -> source.mapping() != null)
            .orElseThrow(
                () -> Refusal.notFound("source for files", name, "See: ebb sources list")));
  }

  /** The one source whose columns these are; failing that, one whose columns changed. */
  private Optional<Source> recognised(List<String> headings) {
    var whole = fitting(Mapping.Fit.WHOLE, headings);
    if (!whole.isEmpty()) {
      return only(whole);
    }
    return only(fitting(Mapping.Fit.COLUMNS_CHANGED, headings));
  }

  private static Optional<Source> only(List<Source> sources) {
    return sources.size() == 1 ? Optional.of(sources.getFirst()) : Optional.empty();
  }

  private List<Source> fitting(Mapping.Fit fit, List<String> headings) {
    return database.read(sources::list).stream()
        .filter(source -> source.mapping() != null && source.mapping().fit(headings) == fit)
        .toList();
  }

  private Problem unmapped(Import made) {
    var known =
        database.read(sources::list).stream()
            .filter(source -> source.mapping() != null)
            .map(Source::name)
            .limit(MOST_NAMED)
            .toList();
    return new Problem(
        "columns-to-map",
        "It is not known yet what the columns of %s mean.".formatted(made.file()),
        made.source() == null
            ? "No source has columns of these names."
            : "Nobody has said yet how %s is read%s."
                .formatted(
                    made.source(),
                    known.isEmpty() ? "" : "; known are " + String.join(", ", known)),
        "Look at what is suggested, and confirm it; it is remembered.",
        Where.file(made.file()));
  }

  private static Problem unclear(Import made, List<String> fitting) {
    return new Problem(
        "source-unclear",
        "%s may come from %s.".formatted(made.file(), String.join(" or from ", fitting)),
        "They have columns of the same names, and one key may be another person in each.",
        "Say which it comes from.",
        Where.file(made.file()));
  }

  private static Problem changed(Import made, Source source, List<String> headings) {
    var lacking = new TreeSet<>(source.mapping().columns().keySet());
    lacking.removeAll(headings);
    var added = new ArrayList<>(headings);
    added.removeAll(source.mapping().columns().keySet());
    added.removeAll(source.mapping().ignored());
    added.remove(source.mapping().key());
    var words = new ArrayList<String>();
    if (!lacking.isEmpty()) {
      words.add("it lacks " + String.join(", ", lacking));
    }
    if (!added.isEmpty()) {
      words.add("new are " + String.join(", ", added));
    }
    return new Problem(
        "columns-changed",
        "The columns of %s are not those %s had before: %s."
            .formatted(made.file(), made.source(), String.join("; ", words)),
        lacking.isEmpty()
            ? "Its key and all other columns are there: the source itself was changed."
            : "Taken as it is, what a lacking column said would be taken away from everybody.",
        lacking.isEmpty()
            ? "Say what the new columns mean; it is remembered."
            : "Ask whoever sends it for the column; or say that the columns are these from now on.",
        Where.file(made.file()));
  }

  private static Problem broke(Import made) {
    return new Problem(
        "import-broke",
        "Reading %s broke off.".formatted(made.file()),
        "Ebb met a fault of its own; it stands in the service's log. Nothing was written.",
        "Read it again; if it breaks off again, send the log to whoever looks after Ebb.",
        Where.file(made.file()));
  }

  private static Refusal gone(Import made) {
    return Refusal.conflict(
        new Problem(
            "file-gone",
            "%s is not kept any more.".formatted(made.file()),
            "Files are kept until their import is released or given up.",
            "Bring it in again.",
            Where.file(made.file())));
  }

  private static Problem sourceNeeded(String name) {
    return new Problem(
        "source-needed",
        "%s holds no list of people.".formatted(name),
        "What is in it is joined to people by their keys, and each source has keys of its own.",
        "Say which source's people they are.",
        Where.field("source"));
  }
}
