package ebb.service.imports;

import ebb.api.KeptMappingView;
import ebb.api.Listing;
import ebb.api.SourceView;
import ebb.core.imports.Mapping;
import ebb.core.imports.Source;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Sources;
import java.security.Principal;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/sources")
class SourceController {
  /** A hand corrects what a file says until the override is taken away. */
  private static final int RANK_OF_HANDS = 1_000;

  private static final int MOST_MAPPINGS = 100;

  /** Who writes what nobody asked for. */
  private static final String BY_ITSELF = "ebb";

  private final Database database;
  private final Sources sources;
  private final Journal journal;
  private final BusinessClock clock;
  private final ImportDesk desk;

  SourceController(
      Database database, Sources sources, Journal journal, BusinessClock clock, ImportDesk desk) {
    this.desk = desk;
    this.database = database;
    this.sources = sources;
    this.journal = journal;
    this.clock = clock;
  }

  @EventListener(ApplicationReadyEvent.class)
  void addHand() {
    if (database.read(session -> sources.get(session, Source.HAND)).isEmpty()) {
      database.writeAll(
          session ->
              sources.put(
                  session,
                  new Source(Source.HAND, RANK_OF_HANDS, Source.Kind.HAND, null, 0),
                  BY_ITSELF,
                  clock.instant()));
    }
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<SourceView> list() {
    return Listing.whole(
        database.read(sources::list).stream().map(SourceController::view).toList());
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{name}")
  ResponseEntity<SourceView> show(@PathVariable String name) {
    var source =
        database
            .read(session -> sources.get(session, name))
            .orElseThrow(() -> Refusal.notFound("source", name, "See: ebb sources list"));
    return Requests.tagged(source.version(), view(source));
  }

  /** Keeps how a source's columns fill attributes. Every row counts again at its next reading. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  ResponseEntity<SourceView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody SourceView edit,
      Principal principal) {
    if (name.equals(Source.HAND)) {
      throw Refusal.conflict(
          new Problem(
              "source-is-hand",
              "%s is what operators enter themselves.".formatted(name),
              "It has no columns, and outranks every file.",
              "Choose another name for the source.",
              Where.field("name")));
    }
    var mapping =
        new Mapping(
            Requests.required(edit.key(), "key"),
            new TreeMap<>(edit.columns() == null ? Map.of() : edit.columns()),
            new TreeSet<>(edit.ignored() == null ? Set.of() : edit.ignored()),
            edit.dateFormat(),
            edit.computed() == null ? null : new TreeMap<>(edit.computed()),
            tables(edit.tables()));
    var problems = mapping.problems(desk.catalogue(), desk.expressions());
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    database.writeAll(
        session -> {
          long version = sources.get(session, name).map(Source::version).orElse(0L);
          Requests.expect("Source " + name, Requests.version(ifMatch), version);
          sources.put(
              session,
              new Source(name, edit.rank(), Source.Kind.FILE, mapping, version),
              principal.getName(),
              clock.instant());
          journal.write(
              session, clock.instant(), Deed.of(principal.getName(), "edited source " + name));
        });
    return show(name);
  }

  /** How its columns were read before, newest first. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{name}/mappings")
  Listing<KeptMappingView> mappings(@PathVariable String name) {
    var source =
        database
            .read(session -> sources.get(session, name))
            .orElseThrow(() -> Refusal.notFound("source", name, "See: ebb sources list"));
    return Listing.whole(
        database.read(session -> sources.mappings(session, name, MOST_MAPPINGS)).stream()
            .map(
                kept ->
                    new KeptMappingView(
                        view(name, kept.version(), source.rank(), kept.mapping()),
                        kept.by(),
                        kept.at()))
            .toList());
  }

  private static SortedMap<String, SortedMap<String, String>> tables(
      Map<String, Map<String, String>> given) {
    var tables = new TreeMap<String, SortedMap<String, String>>();
    if (given != null) {
      given.forEach((attribute, table) -> tables.put(attribute, new TreeMap<>(table)));
    }
    return tables;
  }

  private static SourceView view(Source source) {
    return view(source.name(), source.version(), source.rank(), source.mapping());
  }

  private static SourceView view(String name, long version, int rank, Mapping mapping) {
    return mapping == null
        ? new SourceView(name, version, rank, null, Map.of(), Set.of(), null, Map.of(), Map.of())
        : new SourceView(
            name,
            version,
            rank,
            mapping.key(),
            mapping.columns(),
            mapping.ignored(),
            mapping.dateFormat(),
            mapping.computed(),
            Map.copyOf(mapping.tables()));
  }
}
