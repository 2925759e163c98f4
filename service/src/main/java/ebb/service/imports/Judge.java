package ebb.service.imports;

import ebb.core.change.Input;
import ebb.core.imports.CheckedRow;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Layout;
import ebb.core.imports.Likeness;
import ebb.core.imports.Likeness.Known;
import ebb.core.imports.Likeness.Resemblance;
import ebb.core.imports.Mapping;
import ebb.core.imports.Print;
import ebb.core.imports.Row;
import ebb.core.imports.RowReport;
import ebb.core.imports.RowReport.Edit;
import ebb.core.imports.Source;
import ebb.core.imports.Terms;
import ebb.core.imports.Verdict;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.store.Database;
import ebb.store.people.AssertionCache;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredPerson;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.LongPredicate;
import java.util.function.LongUnaryOperator;
import java.util.stream.Collectors;

/** Says of rows what they are: checks them, matches them, and compares them with what is known. */
final class Judge {
  /** So many new people are held to find those who stand in the file twice. */
  private static final int MOST_NEWCOMERS = 250_000;

  /** So many are shown to whoever answers. */
  private static final int MOST_SHOWN = 5;

  private final Tools tools;
  private final Source source;
  private final Terms terms;
  private final Layout layout;
  private final KeyTable keys;
  private final LongPredicate vanished;
  private final LongUnaryOperator like;
  private final Map<String, String> units;
  private final Set<String> filled;
  private final Map<String, String> forNewPeople;
  private final boolean isSourceKnown;
  private final Print.Press press = new Print.Press();
  private final KeyTable newcomers = new KeyTable(0);

  /** What judging works with. */
  record Tools(
      Database database,
      People people,
      Sources sources,
      AssertionCache assertions,
      Instant now,
      ZoneId zone) {}

  /**
   * @param keys what the source knows, and which line of the file names each key
   * @param vanished whether the file does not name a person any more
   * @param like the line whose key differs from that of a line in capitals alone; 0 for none
   * @param units key to name of the units rows may speak of; empty where they have names
   */
  Judge(
      Tools tools,
      Source source,
      Terms terms,
      Layout layout,
      Catalogue catalogue,
      KeyTable keys,
      LongPredicate vanished,
      LongUnaryOperator like,
      Map<String, String> units) {
    this.tools = tools;
    this.source = source;
    this.terms = terms;
    this.layout = layout;
    this.keys = keys;
    this.vanished = vanished;
    this.like = like;
    this.units = units;
    this.filled = new TreeSet<>(source.mapping().attributes());
    this.filled.addAll(terms.everyone().keySet());
    this.forNewPeople = fallbacks(catalogue, source.mapping());
    this.isSourceKnown = keys.countReleased() > 0;
  }

  /**
   * What was said of rows, in their order, and what follows from it.
   *
   * @param same keys of rows that say what is known already, in other words
   */
  record Judged(List<RowReport> reports, List<Input> inputs, Map<String, Print> same) {}

  Judged judge(List<Row> rows) {
    return judge(prepare(rows));
  }

  /**
   * Rows with all that is needed to judge them.
   *
   * @param now what is said of the people they name, by any source
   * @param alike whom those under keys never seen may be, by the place of the row
   */
  record Prepared(
      List<Row> rows,
      List<CheckedRow> checked,
      Map<PersonId, List<Assertions>> now,
      Map<Integer, Map<Long, Resemblance>> alike) {}

  /** Looks up what is needed; may be done for some rows while others are judged. */
  Prepared prepare(List<Row> rows) {
    var checked = rows.stream().map(this::check).toList();
    return new Prepared(List.copyOf(rows), checked, assertionsNow(checked), alike(checked));
  }

  /** Judges rows, one part after the other in their order: the first of two newcomers is new. */
  Judged judge(Prepared part) {
    var judged = new Judged(new ArrayList<>(), new ArrayList<>(), new HashMap<>());
    for (int i = 0; i < part.rows().size(); i++) {
      var alike = part.alike().getOrDefault(i, Map.of());
      judge(part.rows().get(i), part.checked().get(i), part.now(), alike, judged);
    }
    return judged;
  }

  private void judge(
      Row row,
      CheckedRow checked,
      Map<PersonId, List<Assertions>> now,
      Map<Long, Resemblance> resembles,
      Judged judged) {
    var key = Print.of(checked.key());
    var person = keys.person(key) == 0 ? null : new PersonId(keys.person(key));
    if (!checked.problems().isEmpty()) {
      judged.reports().add(report(Verdict.REFUSED, row, checked, null, Map.of(), Map.of()));
    } else if (keys.isReleased(key)) {
      judgeKnown(row, checked, person, now.get(person), judged);
    } else {
      judgeNew(row, checked, person, resembles, judged);
    }
  }

  private void judgeKnown(
      Row row, CheckedRow checked, PersonId person, List<Assertions> all, Judged judged) {
    if (hasLeftByHand(all)) {
      judged
          .reports()
          .add(
              report(
                  Verdict.SET_ASIDE,
                  row,
                  checked,
                  person,
                  Map.of(),
                  Map.of(person.value(), Likeness.LEFT_AND_NAMED_AGAIN)));
      return;
    }
    var now = ofSource(person, all);
    var edits = edits(checked, now);
    var former = layout.formerKey(row).filter(_ -> keys.isRekeyed(Print.of(checked.key())));
    if (edits.isEmpty() && former.isEmpty()) {
      judged.same().put(checked.key(), print(row));
      return;
    }
    var before = new TreeMap<String, Edit>();
    edits.forEach(
        (attribute, value) -> {
          var held = now.values().get(attribute);
          before.put(attribute, new Edit(held == null ? null : held.value(), value));
        });
    former.ifPresent(key -> before.put(Input.Rekey.CHANGED, new Edit(key, checked.key())));
    var verdict = terms.mode().updates() ? Verdict.CHANGED : Verdict.LEFT_ALONE;
    judged.reports().add(report(verdict, row, checked, now.person(), before, Map.of()));
    if (verdict == Verdict.CHANGED) {
      judged.inputs().add(input(row, checked, now.person(), edits));
      former.ifPresent(
          key ->
              judged
                  .inputs()
                  .add(new Input.Rekey(now.person(), source.name(), key, checked.key())));
    }
  }

  private void judgeNew(
      Row row, CheckedRow checked, PersonId person, Map<Long, Resemblance> known, Judged judged) {
    var resembles = known.isEmpty() ? inFile(row, checked, person) : known;
    var verdict = resembles.isEmpty() && terms.mode().adds() ? Verdict.NEW : Verdict.SET_ASIDE;
    judged.reports().add(report(verdict, row, checked, person, Map.of(), resembles));
    if (verdict == Verdict.NEW) {
      judged
          .inputs()
          .add(input(row, checked, person, edits(checked, Assertions.none(person, source.name()))));
    }
  }

  /** Somebody new whom an earlier row names under another key; notes this row otherwise. */
  private Map<Long, Resemblance> inFile(Row row, CheckedRow checked, PersonId person) {
    var print = Likeness.sameInOneFile(checked.values()).orElse(null);
    if (print == null) {
      return Map.of();
    }
    var line = newcomers.line(print);
    if (line != 0) {
      return Map.of(newcomers.person(print), Likeness.inLine(line));
    }
    if (newcomers.size() < MOST_NEWCOMERS) {
      newcomers.name(print, row.line());
      newcomers.give(print, person.value());
    }
    return Map.of();
  }

  private CheckedRow check(Row row) {
    var checked = layout.check(row);
    var problems = new ArrayList<>(checked.problems());
    var values = new TreeMap<>(checked.values());
    var key = Print.of(checked.key());
    terms.everyone().forEach(values::putIfAbsent);
    if (!keys.isReleased(key)) {
      forNewPeople.forEach(values::putIfAbsent);
      var longer = withZeros(row);
      if (longer != null) {
        problems.add(layout.zerosLost(checked, longer));
      }
    }
    var first = keys.line(key);
    if (!checked.key().isEmpty() && first != 0) {
      var other = first == row.line() ? keys.lineAgain(key) : first;
      if (other != 0) {
        problems.add(layout.doubled(checked, other));
      }
      var likeOther = like.applyAsLong(row.line());
      if (likeOther != 0) {
        problems.add(layout.like(checked, likeOther));
      }
    }
    var unit = values.get(Attributes.DEPARTMENT);
    if (unit != null && !units.isEmpty()) {
      if (units.containsKey(unit)) {
        values.put(Attributes.DEPARTMENT, units.get(unit));
      } else {
        problems.add(layout.unitUnknown(checked, unit));
      }
    }
    var manager = values.get(Attributes.MANAGER);
    if (manager != null) {
      var print = Print.of(manager);
      if (!keys.isReleased(print) && keys.line(print) == 0) {
        problems.add(layout.managerUnknown(checked, manager));
      } else {
        values.put(Attributes.MANAGER, Long.toString(keys.person(print)));
      }
    }
    return new CheckedRow(row.line(), checked.key(), values, problems);
  }

  /** A known key that differs in leading zeros alone; null if there is none. */
  private String withZeros(Row row) {
    if (!isSourceKnown) {
      return null;
    }
    return layout.possibleKeys(row).stream()
        .skip(1)
        .filter(key -> keys.isReleased(Print.of(key)))
        .findFirst()
        .orElse(null);
  }

  /**
   * Whether somebody decided that the person has left: what the source says cannot undo that, and
   * must not be taken for nothing.
   */
  private boolean hasLeftByHand(List<Assertions> all) {
    var today = LocalDate.ofInstant(tools.now(), tools.zone());
    return all.stream()
        .filter(assertions -> assertions.source().equals(Source.HAND))
        .map(assertions -> assertions.values().get(Attributes.END_DATE))
        .anyMatch(end -> end != null && LocalDate.parse(end.value()).isBefore(today));
  }

  /** What is said now of the people of these rows, by any source. */
  private Map<PersonId, List<Assertions>> assertionsNow(List<CheckedRow> rows) {
    var ids =
        rows.stream()
            .filter(row -> row.problems().isEmpty())
            .map(row -> Print.of(row.key()))
            .filter(keys::isReleased)
            .map(key -> new PersonId(keys.person(key)))
            .collect(Collectors.toSet());
    return ids.isEmpty()
        ? Map.of()
        : tools.database().read(session -> tools.assertions().of(session, ids));
  }

  private Assertions ofSource(PersonId id, List<Assertions> all) {
    return all.stream()
        .filter(assertions -> assertions.source().equals(source.name()))
        .findFirst()
        .orElseGet(() -> Assertions.none(id, source.name()));
  }

  /** Whom rows under keys never seen may be, by the place of the row. */
  private Map<Integer, Map<Long, Resemblance>> alike(List<CheckedRow> rows) {
    var clues = new HashMap<Integer, SortedSet<Long>>();
    for (int i = 0; i < rows.size(); i++) {
      if (rows.get(i).problems().isEmpty() && !keys.isReleased(Print.of(rows.get(i).key()))) {
        clues.put(i, Likeness.clues(rows.get(i).values()));
      }
    }
    var all = clues.values().stream().flatMap(Set::stream).collect(Collectors.toSet());
    if (all.isEmpty()) {
      return Map.of();
    }
    var having = tools.database().read(session -> tools.people().byClues(session, all));
    var candidates = new HashMap<Integer, List<PersonId>>();
    clues.forEach((row, of) -> candidates.put(row, Likeness.likeliest(of, having)));
    var known =
        known(candidates.values().stream().flatMap(List::stream).collect(Collectors.toSet()));
    var alike = new HashMap<Integer, Map<Long, Resemblance>>();
    candidates.forEach((row, ids) -> alike.put(row, resembles(rows.get(row).values(), ids, known)));
    return alike;
  }

  private Map<PersonId, Known> known(Set<PersonId> ids) {
    if (ids.isEmpty()) {
      return Map.of();
    }
    return tools
        .database()
        .read(
            session -> {
              var keysHere = tools.sources().keysOf(session, source.name(), ids);
              return tools.people().all(session, ids).stream()
                  .map(StoredPerson::person)
                  .collect(
                      Collectors.toMap(
                          Person::id, person -> known(person, keysHere.get(person.id()))));
            });
  }

  private Known known(Person person, String key) {
    var isNamed = key != null && keys.line(Print.of(key)) != 0;
    var isDeparted = person.stage(tools.now(), tools.zone()) == Stage.DEPARTED;
    return new Known(person, vanished.test(person.id().value()), isNamed, isDeparted);
  }

  private Map<Long, Resemblance> resembles(
      Map<String, String> row, List<PersonId> ids, Map<PersonId, Known> known) {
    var resembles = new HashMap<Long, Resemblance>();
    for (var id : ids) {
      if (known.containsKey(id)) {
        var found =
            terms.mode().adds()
                ? Likeness.between(row, known.get(id))
                : Likeness.near(row, known.get(id));
        found.ifPresent(like -> resembles.put(id.value(), like));
      }
    }
    var shown = new LinkedHashMap<Long, Resemblance>();
    resembles.entrySet().stream()
        .sorted(
            Map.Entry.<Long, Resemblance>comparingByValue(
                    Comparator.comparingInt(Resemblance::score).reversed())
                .thenComparing(Map.Entry.comparingByKey()))
        .limit(MOST_SHOWN)
        .forEach(entry -> shown.put(entry.getKey(), entry.getValue()));
    return shown;
  }

  /** An attribute the source fills and the row leaves empty is taken away. */
  private SortedMap<String, String> edits(CheckedRow row, Assertions now) {
    var edits = new TreeMap<String, String>();
    filled.forEach(attribute -> edits.put(attribute, row.values().get(attribute)));
    if (now.values().isEmpty()) {
      forNewPeople.keySet().forEach(name -> edits.put(name, row.values().get(name)));
    }
    return now.changing(edits);
  }

  private Input input(Row row, CheckedRow checked, PersonId person, Map<String, String> edits) {
    return new Input.Assert(person, source.name(), checked.key(), print(row).text(), edits);
  }

  private Print print(Row row) {
    return layout.print(row, press, terms.seed(source.version(), units));
  }

  private RowReport report(
      Verdict verdict,
      Row row,
      CheckedRow checked,
      PersonId person,
      Map<String, Edit> edits,
      Map<Long, Resemblance> resembles) {
    var mayNeedMending = verdict == Verdict.REFUSED || verdict == Verdict.SET_ASIDE;
    return new RowReport(
        row.line(),
        verdict,
        checked.key(),
        person,
        mayNeedMending ? layout.texts(row) : Map.of(),
        checked.values(),
        edits,
        checked.problems(),
        resembles,
        null);
  }

  private static Map<String, String> fallbacks(Catalogue catalogue, Mapping mapping) {
    return catalogue.all().stream()
        .filter(attribute -> attribute.fallback() != null)
        .filter(attribute -> !mapping.attributes().contains(attribute.name()))
        .collect(
            Collectors.toMap(attribute -> attribute.name(), attribute -> attribute.fallback()));
  }
}
