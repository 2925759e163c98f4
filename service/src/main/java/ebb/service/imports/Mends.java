package ebb.service.imports;

import ebb.api.MendedView;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.imports.Import;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Layout;
import ebb.core.imports.Mapping;
import ebb.core.imports.Print;
import ebb.core.imports.Row;
import ebb.core.imports.RowReport;
import ebb.core.imports.Source;
import ebb.core.imports.Verdict;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.imports.Imports;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.AssertionCache;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Mends refused rows in place, and checks them again at once, as if the file had been so. */
@Component
final class Mends {
  /** Rows mended by one act. */
  private static final int MOST = 10_000;

  private static final int ROWS_AT_ONCE = 500;

  private final Database database;
  private final BusinessClock clock;
  private final ImportDesk desk;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final Imports imports;
  private final Sources sources;
  private final People people;
  private final LinkedFiles linked;
  private final Journal journal;

  Mends(
      Database database,
      BusinessClock clock,
      ImportDesk desk,
      Proposals proposals,
      ChangeSets changeSets,
      Imports imports,
      Sources sources,
      People people,
      LinkedFiles linked,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.desk = desk;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.imports = imports;
    this.sources = sources;
    this.people = people;
    this.linked = linked;
    this.journal = journal;
  }

  /**
   * Mends a row, and if so asked all that are refused because the same text stands there.
   *
   * @param texts heading to what shall stand there
   * @throws Refusal if the import is not shown, or the row is not refused
   */
  MendedView mend(long id, long line, Map<String, String> texts, boolean alike, String by) {
    var made = shown(id);
    var first = refused(id, line);
    var unknown = new TreeSet<>(texts.keySet());
    unknown.removeAll(first.texts().keySet());
    if (!unknown.isEmpty()) {
      throw Refusal.invalid(headingUnknown(made, unknown));
    }
    var mended = new TreeMap<Long, Map<String, String>>();
    mended.put(line, texts);
    if (alike) {
      texts.forEach(
          (heading, text) ->
              alike(id, first, heading)
                  .forEach(
                      other ->
                          mended.computeIfAbsent(other, _ -> new HashMap<>()).put(heading, text)));
    }
    note(by, "mended %d rows of import %d".formatted(mended.size(), id));
    return checkAgain(made, mended);
  }

  /** Says what a code of the import's source means; it is remembered with the source's mapping. */
  MendedView means(long id, String attribute, String code, String meaning, String by) {
    var made = shown(id);
    var source = source(made);
    if (!source.mapping().tables().containsKey(attribute)) {
      throw Refusal.invalid(noTable(source, attribute));
    }
    var heading =
        source.mapping().columns().entrySet().stream()
            .filter(entry -> entry.getValue().equals(attribute))
            .map(Map.Entry::getKey)
            .findFirst()
            .orElse(attribute);
    database.writeAll(
        session -> {
          sources.put(
              session,
              new Source(
                  source.name(),
                  source.rank(),
                  source.kind(),
                  source.mapping().meaning(attribute, code, meaning),
                  source.version()),
              by,
              clock.instant());
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "said what code %s of %s means".formatted(code, source.name())));
        });
    var lines = new TreeMap<Long, Map<String, String>>();
    database
        .read(session -> imports.alike(session, id, "code-unknown", heading, code, MOST))
        .forEach(line -> lines.put(line, Map.of()));
    return checkAgain(made, lines);
  }

  private List<Long> alike(long id, RowReport first, String heading) {
    return first.problems().stream()
        .filter(problem -> heading.equals(problem.where().column()))
        .flatMap(
            problem ->
                database
                    .read(
                        session ->
                            imports.alike(
                                session,
                                id,
                                problem.code(),
                                heading,
                                first.texts().get(heading),
                                MOST))
                    .stream())
        .toList();
  }

  /** Rows that were refused because of these go on with them: reports of a manager mended now. */
  private MendedView checkAgain(Import made, Map<Long, Map<String, String>> mended) {
    long rows = 0;
    long refused = 0;
    var done = new HashSet<Long>();
    for (var open = mended; !open.isEmpty() && rows < MOST; ) {
      done.addAll(open.keySet());
      var freed = new TreeMap<Long, Map<String, String>>();
      for (var part : parts(open)) {
        var keysBefore = keysOf(made, part.keySet());
        var reports = checkPart(made, part);
        freedBy(made, keysBefore, reports).stream()
            .filter(line -> !done.contains(line))
            .forEach(line -> freed.put(line, Map.of()));
        rows += part.size();
        refused += reports.stream().filter(one -> one.verdict() == Verdict.REFUSED).count();
        waitingFor(made, reports).stream()
            .filter(line -> !done.contains(line))
            .forEach(line -> freed.put(line, Map.of()));
      }
      open = freed;
    }
    recount(made);
    return new MendedView(rows, refused);
  }

  private static List<Map<Long, Map<String, String>>> parts(Map<Long, Map<String, String>> all) {
    var parts = new ArrayList<Map<Long, Map<String, String>>>();
    all.forEach(
        (line, texts) -> {
          if (parts.isEmpty() || parts.getLast().size() == ROWS_AT_ONCE) {
            parts.add(new LinkedHashMap<>());
          }
          parts.getLast().put(line, texts);
        });
    return parts;
  }

  private List<RowReport> checkPart(Import made, Map<Long, Map<String, String>> mended) {
    var rows = new ArrayList<Row>();
    var headings = new ArrayList<String>();
    mended.forEach(
        (line, texts) ->
            database
                .read(session -> imports.row(session, made.id(), line))
                .filter(row -> row.verdict() == Verdict.REFUSED)
                .ifPresent(
                    row -> {
                      var now = new LinkedHashMap<>(row.texts());
                      now.putAll(texts);
                      if (headings.isEmpty()) {
                        headings.addAll(now.keySet());
                      }
                      rows.add(new Row(line, List.copyOf(now.values())));
                    }));
    if (rows.isEmpty()) {
      return List.of();
    }
    var source = source(made);
    var layout =
        source.mapping().layout(made.file(), headings, desk.catalogue(), desk.expressions());
    var keys = keys(made, source.mapping(), layout, rows);
    var judge =
        new Judge(
            new Judge.Tools(
                database,
                people,
                sources,
                new AssertionCache(people),
                clock.instant(),
                clock.zone()),
            source,
            made.terms(),
            layout,
            desk.catalogue(),
            keys,
            _ -> false,
            _ -> 0,
            linked.unitNames(made));
    var judged = judge.judge(rows);
    keep(made, rows, judged);
    return judged.reports();
  }

  /** What the source knows of the keys of these rows and of their managers; new ones numbered. */
  private KeyTable keys(Import made, Mapping mapping, Layout layout, List<Row> rows) {
    var asked = new TreeSet<String>();
    rows.forEach(
        row -> {
          asked.addAll(layout.possibleKeys(row));
          asked.addAll(layout.managerKey(row));
          layout.formerKey(row).ifPresent(asked::add);
        });
    var keys = new KeyTable(asked.size());
    var lines = new HashSet<Long>();
    rows.forEach(row -> lines.add(row.line()));
    database.read(
        session -> {
          sources.know(session, made.source(), asked, keys);
          imports
              .linesOf(session, made.id(), asked)
              .forEach(
                  (key, line) -> {
                    if (!lines.contains(line)) {
                      keys.name(Print.of(key), line);
                    }
                  });
          return null;
        });
    rows.forEach(
        row ->
            layout
                .formerKey(row)
                .ifPresent(former -> keys.rekey(Print.of(former), Print.of(layout.key(row)))));
    number(made, mapping, layout, rows, keys);
    return keys;
  }

  private void number(Import made, Mapping mapping, Layout layout, List<Row> rows, KeyTable keys) {
    var unnumbered = new LinkedHashMap<String, PersonId>();
    for (var row : rows) {
      var key = layout.key(row);
      var isFirst = !key.isEmpty() && keys.name(Print.of(key), row.line()) == 0;
      if (isFirst && keys.person(Print.of(key)) == 0 && Layout.mayBeKey(key)) {
        unnumbered.put(key, null);
      }
    }
    if (!unnumbered.isEmpty()) {
      var numbers =
          new ArrayList<>(database.write(session -> people.numbered(session, unnumbered.size())));
      unnumbered.replaceAll((_, _) -> numbers.removeFirst());
      unnumbered.forEach((key, person) -> keys.give(Print.of(key), person.value()));
      database.writeAll(session -> sources.reserve(session, made.source(), unnumbered));
    }
  }

  private void keep(Import made, List<Row> rows, Judge.Judged judged) {
    database.writeAll(
        session -> {
          var left = new HashSet<Long>();
          rows.forEach(row -> left.add(row.line()));
          for (var report : judged.reports()) {
            imports.putRow(session, made.id(), report);
            left.remove(report.line());
          }
          left.forEach(line -> imports.dropRow(session, made.id(), line));
        });
    judged.reports().stream()
        .filter(report -> report.verdict() == Verdict.NEW)
        .forEach(report -> linked.follow(made, report.key(), report.person()));
    if (!judged.inputs().isEmpty()) {
      proposals.add(made.changeSet(), judged.inputs());
      proposals.showAnew(made.changeSet(), judged.inputs().stream().map(Input::person).toList());
    }
  }

  private Map<Long, String> keysOf(Import made, Set<Long> lines) {
    var keys = new TreeMap<Long, String>();
    lines.forEach(
        line ->
            database
                .read(session -> imports.row(session, made.id(), line))
                .ifPresent(row -> keys.put(line, row.key())));
    return keys;
  }

  /** Lines refused for a key that another had, too, which has another one now. */
  private Set<Long> freedBy(
      Import made, Map<Long, String> keysBefore, Collection<RowReport> reports) {
    var heading = source(made).mapping().key();
    var freed = new TreeSet<Long>();
    for (var report : reports) {
      var before = keysBefore.get(report.line());
      if (before != null && !before.equals(report.key())) {
        var others =
            database.read(
                session -> imports.alike(session, made.id(), "key-doubled", heading, before, MOST));
        // Of two that are left neither is chosen yet.
        if (others.size() == 1) {
          freed.addAll(others);
        }
      }
    }
    return freed;
  }

  /** Lines refused because of a manager who may go on now. */
  private Set<Long> waitingFor(Import made, Collection<RowReport> reports) {
    var heading =
        source(made).mapping().columns().entrySet().stream()
            .filter(entry -> entry.getValue().equals(Attributes.MANAGER))
            .map(Map.Entry::getKey)
            .findFirst();
    var waiting = new TreeSet<Long>();
    heading.ifPresent(
        manager ->
            reports.stream()
                .filter(report -> report.verdict() != Verdict.REFUSED)
                .forEach(
                    report ->
                        waiting.addAll(
                            database.read(
                                session ->
                                    imports.alike(
                                        session,
                                        made.id(),
                                        "manager-unknown",
                                        manager,
                                        report.key(),
                                        MOST)))));
    return waiting;
  }

  private void recount(Import made) {
    database.writeAll(
        session -> {
          var verdicts = imports.verdicts(session, made.id());
          var counts = new TreeMap<>(made.counts());
          long before =
              counts.entrySet().stream()
                  .filter(count -> !count.getKey().equals("missing"))
                  .mapToLong(Map.Entry::getValue)
                  .sum();
          long listed = 0;
          for (var verdict : Verdict.values()) {
            if (verdict != Verdict.UNCHANGED) {
              counts.put(verdict.word(), verdicts.getOrDefault(verdict, 0L));
              listed += verdicts.getOrDefault(verdict, 0L);
            }
          }
          counts.put(Verdict.UNCHANGED.word(), before - listed);
          imports.put(session, made.found(counts, made.changeSet()));
        });
  }

  private void note(String by, String what) {
    database.writeAll(session -> journal.write(session, clock.instant(), Deed.of(by, what)));
  }

  private Source source(Import made) {
    return database.read(session -> sources.get(session, made.source())).orElseThrow();
  }

  private RowReport refused(long id, long line) {
    return database
        .read(session -> imports.row(session, id, line))
        .filter(row -> row.verdict() == Verdict.REFUSED)
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "refused row in line",
                    line,
                    "See: ebb imports rows %d --verdict refused".formatted(id)));
  }

  private Import shown(long id) {
    var made = desk.get(id);
    var isShown =
        made.changeSet() != null
            && database
                .read(session -> changeSets.get(session, made.changeSet()))
                .filter(set -> set.state() == SetState.SHOWN)
                .isPresent();
    if (!isShown) {
      throw Refusal.conflict(
          new Problem(
              "import-not-shown",
              "Import %d is %s.".formatted(id, made.stage().word()),
              "Rows are mended before its release.",
              "Bring the mended rows in as a file of their own.",
              null));
    }
    return made;
  }

  private static Problem headingUnknown(Import made, Set<String> unknown) {
    return new Problem(
        "heading-unknown",
        "%s has no column %s.".formatted(made.file(), String.join(", ", unknown)),
        "Only what stands in the file can be mended.",
        "Use a heading of the file.",
        Where.field("texts"));
  }

  private static Problem noTable(Source source, String attribute) {
    return new Problem(
        "no-codes",
        "%s writes no codes for %s.".formatted(source.name(), attribute),
        "What stands in its column is taken as it is.",
        "Say in the mapping that the column holds codes.",
        Where.field("attribute"));
  }
}
