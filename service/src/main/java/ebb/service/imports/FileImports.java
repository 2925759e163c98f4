package ebb.service.imports;

import ebb.connectors.file.CsvRows;
import ebb.core.change.Cause;
import ebb.core.change.Input;
import ebb.core.guard.ImportGuard;
import ebb.core.imports.CheckedRow;
import ebb.core.imports.Import;
import ebb.core.imports.Layout;
import ebb.core.imports.Likeness;
import ebb.core.imports.Missing;
import ebb.core.imports.Row;
import ebb.core.imports.RowHash;
import ebb.core.imports.RowReport;
import ebb.core.imports.Rows;
import ebb.core.imports.Source;
import ebb.core.imports.Stage;
import ebb.core.imports.Verdict;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.imports.Imports;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.Sources.Known;
import ebb.store.people.StoredPerson;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Brings a file in. It is read twice: once for its keys, so that a manager may come after their
 * reports, and once row by row. Nothing of a person is written before the release.
 */
@Component
final class FileImports {
  private static final int ROWS_AT_ONCE = 500;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final Sources sources;
  private final People people;
  private final Imports imports;

  FileImports(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      Sources sources,
      People people,
      Imports imports) {
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.sources = sources;
    this.people = people;
    this.imports = imports;
  }

  /**
   * Reads, checks, matches and shows a file.
   *
   * @param complete whether people it does not name are missing
   * @throws Refusal if the file as a whole cannot be taken
   */
  Import bring(
      String sourceName, String name, Path file, String sha256, boolean complete, String by)
      throws IOException {
    var source =
        database
            .read(session -> sources.get(session, sourceName))
            .filter(found -> found.mapping() != null)
            .orElseThrow(
                () -> Refusal.notFound("source for files", sourceName, "See: ebb sources list"));
    var run = new Run(source, name, file);
    run.readKeys();
    var made = begin(source, name, sha256, complete, by);
    var set = proposals.begin(Cause.IMPORT, "import " + name, by, null);
    run.readRows(made.id(), set.id());
    var missing = complete ? run.missing() : List.<Missing>of();
    database.writeAll(session -> imports.putMissing(session, made.id(), missing));
    run.counts.put("missing", (long) missing.size());
    keep(made, Stage.CHECKED, run.counts, set.id());
    proposals.show(set, run.stops(missing.size()));
    return keep(made, Stage.SHOWN, run.counts, set.id());
  }

  private Import begin(Source source, String name, String sha256, boolean complete, String by) {
    return database.write(
        session -> {
          var made =
              new Import(
                  imports.number(session),
                  source.name(),
                  name,
                  sha256,
                  complete,
                  Stage.READ,
                  Map.of(),
                  null,
                  by,
                  clock.instant());
          imports.put(session, made);
          return made;
        });
  }

  private Import keep(Import made, Stage stage, Map<String, Long> counts, long set) {
    var next = made.found(counts, set).at(stage);
    database.writeAll(session -> imports.put(session, next));
    return next;
  }

  private final class Run {
    private final Source source;
    private final String name;
    private final Path file;
    private final Map<String, Known> known;
    private final Map<String, Long> firstLines = new HashMap<>();
    private final Map<String, PersonId> newPeople = new HashMap<>();
    private final Map<String, Long> counts = new TreeMap<>();
    private final Map<String, Long> changed = new TreeMap<>();

    Run(Source source, String name, Path file) {
      this.source = source;
      this.name = name;
      this.file = file;
      this.known = new HashMap<>(database.read(session -> sources.keys(session, source.name())));
      known.forEach((key, one) -> reserve(key, one));
      known.keySet().removeAll(newPeople.keySet());
    }

    /** A key that was met and never released has a number, and still is nobody. */
    private void reserve(String key, Known one) {
      if (Sources.RESERVED.equals(one.rowHash())) {
        newPeople.put(key, one.person());
      }
    }

    private interface EachRow {
      void take(Layout layout, Row row);
    }

    private void read(EachRow each) throws IOException {
      try (Rows rows = CsvRows.open(file, name)) {
        var layout = source.mapping().layout(name, rows.headings());
        for (var row = rows.next(); row.isPresent(); row = rows.next()) {
          each.take(layout, row.get());
        }
      }
    }

    /** The first pass: which keys there are, and numbers for people who are new. */
    void readKeys() throws IOException {
      read(
          (layout, row) -> {
            var key = layout.key(row);
            if (!key.isEmpty()) {
              firstLines.putIfAbsent(key, row.line());
            }
          });
      if (firstLines.isEmpty()) {
        throw Refusal.invalid(noRows());
      }
      var unknown =
          firstLines.keySet().stream()
              .filter(key -> !known.containsKey(key) && !newPeople.containsKey(key))
              .sorted()
              .toList();
      var ids = database.write(session -> people.numbered(session, unknown.size()));
      for (int i = 0; i < unknown.size(); i++) {
        newPeople.put(unknown.get(i), ids.get(i));
      }
      for (int from = 0; from < unknown.size(); from += ROWS_AT_ONCE) {
        var part = unknown.subList(from, Math.min(from + ROWS_AT_ONCE, unknown.size()));
        database.writeAll(
            session ->
                part.forEach(
                    key -> sources.reserve(session, source.name(), key, newPeople.get(key))));
      }
    }

    /** The second pass: every row checked, matched, and given its verdict. */
    void readRows(long made, long set) throws IOException {
      var part = new ArrayList<CheckedRow>();
      read(
          (layout, row) -> {
            part.add(check(layout, row));
            if (part.size() == ROWS_AT_ONCE) {
              judge(part, made, set);
              part.clear();
            }
          });
      judge(part, made, set);
    }

    private CheckedRow check(Layout layout, Row row) {
      var checked = layout.check(row);
      var problems = new ArrayList<>(checked.problems());
      var values = new TreeMap<>(checked.values());
      var first = firstLines.get(checked.key());
      if (first != null && first != row.line()) {
        problems.add(layout.doubled(checked, first));
      }
      var manager = values.get(Attributes.MANAGER);
      if (manager != null) {
        var id = personOf(manager);
        if (id == null) {
          problems.add(layout.managerUnknown(checked, manager));
        } else {
          values.put(Attributes.MANAGER, id.toString());
        }
      }
      return new CheckedRow(row.line(), checked.key(), values, problems);
    }

    private PersonId personOf(String key) {
      var found = known.get(key);
      return found != null ? found.person() : newPeople.get(key);
    }

    private void judge(List<CheckedRow> part, long made, long set) {
      if (part.isEmpty()) {
        return;
      }
      var now = assertionsNow(part);
      var alike = alike(part);
      var reports = new ArrayList<RowReport>();
      var inputs = new ArrayList<Input>();
      for (var row : part) {
        var report = judge(row, now, alike);
        counts.merge(report.verdict().word(), 1L, Long::sum);
        if (report.verdict() != Verdict.UNCHANGED) {
          reports.add(report);
        }
        if (report.verdict() == Verdict.NEW || report.verdict() == Verdict.CHANGED) {
          inputs.add(input(row, report.person(), now));
        }
      }
      database.writeAll(session -> imports.putRows(session, made, reports));
      proposals.add(set, inputs);
    }

    /** What the source says now of people whose row is not the same as last time. */
    private Map<PersonId, Assertions> assertionsNow(List<CheckedRow> part) {
      var ids =
          part.stream()
              .filter(row -> known.containsKey(row.key()))
              .filter(row -> !hash(row).equals(known.get(row.key()).rowHash()))
              .map(row -> known.get(row.key()).person())
              .collect(Collectors.toSet());
      if (ids.isEmpty()) {
        return Map.of();
      }
      var now = new HashMap<PersonId, Assertions>();
      database
          .read(session -> people.assertions(session, ids))
          .forEach(
              (id, all) ->
                  now.put(
                      id,
                      all.stream()
                          .filter(assertions -> assertions.source().equals(source.name()))
                          .findFirst()
                          .orElseGet(() -> Assertions.none(id, source.name()))));
      return now;
    }

    /** People of the same names as rows under keys never seen. */
    private Map<String, List<StoredPerson>> alike(List<CheckedRow> part) {
      var keys =
          part.stream()
              .filter(row -> row.problems().isEmpty() && !known.containsKey(row.key()))
              .map(row -> Likeness.blockingKey(row.values()))
              .collect(Collectors.toSet());
      return keys.isEmpty()
          ? Map.of()
          : database.read(session -> people.byMatchKeys(session, keys)).stream()
              .collect(Collectors.groupingBy(Run::blockingKey));
    }

    private static String blockingKey(StoredPerson stored) {
      return Likeness.blockingKey(
          stored.person().get(Attributes.GIVEN_NAME).orElse(""),
          stored.person().get(Attributes.FAMILY_NAME).orElse(""));
    }

    private RowReport judge(
        CheckedRow row, Map<PersonId, Assertions> now, Map<String, List<StoredPerson>> alike) {
      if (!row.problems().isEmpty()) {
        return report(row, Verdict.REFUSED, null, Map.of());
      }
      var old = known.get(row.key());
      if (old != null) {
        var assertions = now.get(old.person());
        var edits = assertions == null ? new TreeMap<String, String>() : edits(row, assertions);
        edits.keySet().forEach(attribute -> changed.merge(attribute, 1L, Long::sum));
        return report(
            row, edits.isEmpty() ? Verdict.UNCHANGED : Verdict.CHANGED, old.person(), Map.of());
      }
      var resembles = resembles(row, alike);
      return report(
          row,
          resembles.isEmpty() ? Verdict.NEW : Verdict.SET_ASIDE,
          newPeople.get(row.key()),
          resembles);
    }

    private Map<Long, List<String>> resembles(
        CheckedRow row, Map<String, List<StoredPerson>> alike) {
      var resembles = new TreeMap<Long, List<String>>();
      for (var stored : alike.getOrDefault(Likeness.blockingKey(row.values()), List.of())) {
        Likeness.between(row.values(), stored.person(), isVanished(stored.person().id()))
            .ifPresent(like -> resembles.put(stored.person().id().value(), like.reasons()));
      }
      return resembles;
    }

    private boolean isVanished(PersonId id) {
      return vanished().contains(id);
    }

    private Set<PersonId> vanished;

    private Set<PersonId> vanished() {
      if (vanished == null) {
        vanished =
            known.entrySet().stream()
                .filter(entry -> !firstLines.containsKey(entry.getKey()))
                .map(entry -> entry.getValue().person())
                .collect(Collectors.toCollection(HashSet::new));
      }
      return vanished;
    }

    /** An attribute the source maps and the row leaves empty is taken away. */
    private SortedMap<String, String> edits(CheckedRow row, Assertions now) {
      var edits = new TreeMap<String, String>();
      source
          .mapping()
          .columns()
          .values()
          .forEach(attribute -> edits.put(attribute, row.values().get(attribute)));
      return now.changing(edits);
    }

    private Input input(CheckedRow row, PersonId person, Map<PersonId, Assertions> now) {
      var edits = edits(row, now.getOrDefault(person, Assertions.none(person, source.name())));
      return new Input.Assert(person, source.name(), row.key(), hash(row), edits);
    }

    private String hash(CheckedRow row) {
      return RowHash.of(row.values(), source.version());
    }

    private static RowReport report(
        CheckedRow row, Verdict verdict, PersonId person, Map<Long, List<String>> resembles) {
      return new RowReport(
          row.line(), verdict, row.key(), person, row.values(), row.problems(), resembles, null);
    }

    /** People this source knows whom the file does not name, and who are not gone already. */
    List<Missing> missing() {
      var gone = vanished();
      if (gone.isEmpty()) {
        return List.of();
      }
      var asserted = database.read(session -> people.assertions(session, gone));
      return known.entrySet().stream()
          .filter(entry -> gone.contains(entry.getValue().person()))
          .filter(entry -> !isLeaving(asserted.get(entry.getValue().person())))
          .map(
              entry ->
                  new Missing(
                      entry.getKey(), entry.getValue().person(), Missing.Decision.UNDECIDED))
          .toList();
    }

    /** Nothing asserted, or a last day known: nobody need be asked again. */
    private boolean isLeaving(List<Assertions> assertions) {
      return assertions.isEmpty()
          || assertions.stream().anyMatch(one -> one.values().containsKey(Attributes.END_DATE));
    }

    List<Problem> stops(long missing) {
      return ImportGuard.check(new ImportGuard.Reading(known.size(), missing, changed));
    }

    private Problem noRows() {
      return new Problem(
          "file-without-rows",
          "%s has headings and no rows.".formatted(name),
          "Taken as complete it would make everybody a leaver.",
          "Export it again.",
          Where.file(name));
    }
  }
}
