package ebb.service.imports;

import ebb.connectors.file.TwoPasses;
import ebb.core.change.Input;
import ebb.core.guard.ImportGuard;
import ebb.core.imports.Import;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Layout;
import ebb.core.imports.ManagerLoops;
import ebb.core.imports.Missing;
import ebb.core.imports.Print;
import ebb.core.imports.Reading;
import ebb.core.imports.Row;
import ebb.core.imports.RowReport;
import ebb.core.imports.Rows;
import ebb.core.imports.Source;
import ebb.core.imports.Verdict;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Expressions;
import ebb.service.changes.Proposals;
import ebb.service.evaluation.AtHand;
import ebb.service.limits.LimitBook;
import ebb.service.time.BusinessClock;
import ebb.store.Ahead;
import ebb.store.Database;
import ebb.store.Keeper;
import ebb.store.imports.Imports;
import ebb.store.people.AssertionCache;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;

/**
 * One reading of a file. A first pass takes prints of all rows, so that a manager may come after
 * their reports and most rows need not be looked at; a second one judges those that differ. Nothing
 * of a person is written before the release.
 */
final class ImportRun {
  /** Several parts of so many are held at once; see {@code Evaluator.PART}. */
  private static final int ROWS_AT_ONCE = 500;

  private static final int NUMBERS_AT_ONCE = 10_000;

  /** So many people with their inputs are held, in some ten megabytes. */
  private static final int MOST_HELD = 10_000;

  /** What a file of this source is usually like. */
  private static final int READINGS_BEFORE = 5;

  /** What a run works with. */
  record Tools(
      Database database,
      Sources sources,
      People people,
      Imports imports,
      Proposals proposals,
      LinkedFiles linked,
      LimitBook limits,
      BusinessClock clock,
      Expressions expressions) {}

  /**
   * What is read.
   *
   * @param people the list of people; null where only linked files came
   * @param linked a folder of them; null where none came
   */
  record Files(Path people, Path linked) {}

  private final Tools tools;
  private final Source source;
  private final Import made;
  private final Files files;
  private final TwoPasses people;
  private final Catalogue catalogue;
  private final Progress progress;
  private final AssertionCache assertions;
  private final NavigableMap<PersonId, List<Input>> held = new TreeMap<>();
  private final Reading reading = new Reading();
  private final BitSet unnumbered = new BitSet();
  private final Map<Long, Long> managers = new HashMap<>();
  private final Map<Long, Row> rowsWithManagers = new HashMap<>();
  private final Set<Long> joining = new HashSet<>();
  private final Map<Verdict, Long> counts = new TreeMap<>();
  private final Map<String, Long> changed = new TreeMap<>();
  private boolean holdsAll = true;
  private KeyTable keys;
  private Reading.Compared compared;
  private final Set<Print> gone = new HashSet<>();
  private Set<Long> vanished;
  private Layout layout;
  private Judge judge;
  private Map<String, String> units;
  private long known;

  ImportRun(
      Tools tools,
      Source source,
      Import made,
      Files files,
      Catalogue catalogue,
      Progress progress) {
    this.tools = tools;
    this.source = source;
    this.made = made;
    this.files = files;
    this.people = new TwoPasses(files.people(), made.file(), made.format());
    this.catalogue = catalogue;
    this.progress = progress;
    this.assertions = new AssertionCache(tools.people);
  }

  /**
   * What was found.
   *
   * @param counts rows by verdict, and the people missing
   * @param stops what the guard says of it
   * @param atHand what computing what follows would ask for again
   */
  record Found(Map<String, Long> counts, List<Problem> stops, AtHand atHand) {}

  /**
   * Reads and judges the file.
   *
   * @param set gathers what follows
   * @throws Refusal if the file as a whole cannot be taken
   */
  Found read(long set) throws IOException {
    var before =
        tools.database.read(
            session -> tools.imports.released(session, source.name(), READINGS_BEFORE));
    var expected = before.isEmpty() ? 0 : Math.toIntExact(before.getFirst().rows());
    var loading =
        CompletableFuture.supplyAsync(
            () ->
                tools.database.read(
                    session -> tools.sources.keys(session, source.name(), expected)));
    if (files.linked() != null) {
      tools.linked.readLists(made, files.linked());
    }
    units = tools.linked.unitNames(made);
    if (files.people() != null) {
      takePrints();
    }
    keys = loading.join();
    known = keys.countReleased();
    var unlike = reading.unlike(keys);
    try (var _ = assertions.readAhead(tools.database, knownIn(unlike))) {
      compared = reading.compare(keys, unlike);
    }
    var different = compared.different();
    vanished = namesAll() ? keys.vanished() : gone();
    giveNumbers(different);
    progress.checking(different.cardinality());
    counts.put(Verdict.UNCHANGED, (long) reading.size() - different.cardinality());
    if (!different.isEmpty()) {
      judgeAll(different, set);
      refuseLoops(set);
    }
    if (files.linked() != null) {
      tools.linked.join(made, set, files.linked(), this::member);
    }
    var missing = missing();
    tools.database.writeAll(session -> tools.imports.putMissing(session, made.id(), missing));
    return new Found(counted(missing.size()), stops(missing.size(), before), atHand());
  }

  /** Linked files add inputs of their own. */
  private AtHand atHand() {
    var isAll = holdsAll && files.linked() == null;
    return new AtHand(assertions, isAll ? Optional.of(held) : Optional.empty());
  }

  /** The first of those whom these rows name and of whom something is said. */
  private List<PersonId> knownIn(BitSet rows) {
    return rows.stream()
        .mapToObj(reading::key)
        .filter(keys::isReleased)
        .limit(AssertionCache.MOST)
        .map(key -> new PersonId(keys.person(key)))
        .toList();
  }

  private boolean namesAll() {
    return made.terms().complete() && files.people() != null;
  }

  /** Whom a file that names only some says to have gone, and nothing else of them. */
  private Set<Long> gone() {
    return gone.stream()
        .filter(key -> keys.isReleased(key) && keys.line(key) == 0)
        .map(keys::person)
        .collect(Collectors.toSet());
  }

  private List<Problem> stops(long missing, List<Import> before) {
    return ImportGuard.check(
        source.name(),
        new ImportGuard.Found(
            made.terms().complete(),
            known,
            reading.size(),
            compared.strangers(),
            compared.withoutKey(),
            compared.doubled(),
            missing,
            changed),
        beside(before),
        tools.database.read(tools.limits::limits));
  }

  private ImportGuard.Beside beside(List<Import> before) {
    if (before.isEmpty()) {
      return ImportGuard.Beside.NOTHING;
    }
    var last = before.getFirst();
    var sizes = before.stream().mapToLong(Import::rows).filter(rows -> rows > 0).sorted().toArray();
    return new ImportGuard.Beside(
        sizes.length == 0 ? 0 : sizes[sizes.length / 2],
        charset(last),
        charset(made),
        made.print().equals(last.print())
            ? null
            : before.stream()
                .filter(one -> one.print().equals(made.print()))
                .findFirst()
                .map(Import::id)
                .orElse(null),
        last.writtenAt(),
        made.writtenAt());
  }

  private static String charset(Import one) {
    return one.format() == null ? null : one.format().charset();
  }

  /** Whose key it is, once all rows were judged. */
  private LinkedFiles.Member member(String key) {
    var print = Print.of(key);
    var person = keys.person(print);
    if (keys.isReleased(print) || joining.contains(person)) {
      return new LinkedFiles.Member.Known(new PersonId(person));
    }
    return keys.line(print) != 0
        ? new LinkedFiles.Member.Waits()
        : new LinkedFiles.Member.Unknown();
  }

  private Map<String, Long> counted(long missing) {
    var words = new LinkedHashMap<String, Long>();
    counts.forEach((verdict, count) -> words.put(verdict.word(), count));
    words.put(Import.MISSING, missing);
    return words;
  }

  private void takePrints() throws IOException {
    var press = new Print.Press();
    var seed = made.terms().seed(source.version(), units);
    try (Rows rows = people.first()) {
      layout = source.mapping().layout(made.file(), rows.headings(), catalogue, tools.expressions);
      for (var next = rows.next(); next.isPresent(); next = rows.next()) {
        var row = next.get();
        if (layout.isGone(row)) {
          gone.add(Print.of(layout.key(row)));
          reading.passOver(row.line());
          continue;
        }
        var key = layout.key(row);
        reading.add(row.line(), Print.of(key), layout.print(row, press, seed));
        layout.foldedKey(key).map(Print::of).ifPresent(reading::folded);
        layout.formerKey(row).map(Print::of).ifPresent(reading::formerly);
        progress.read(reading.size());
      }
    }
    if (reading.size() == 0 && gone.isEmpty()) {
      throw Refusal.invalid(noRows());
    }
  }

  /** Numbers for people who are new, in the order of their rows. */
  private void giveNumbers(BitSet different) {
    var rows = new ArrayList<Integer>();
    for (int row = different.nextSetBit(0); row >= 0; row = different.nextSetBit(row + 1)) {
      if (reading.hasKey(row)
          && keys.person(reading.key(row)) == 0
          && keys.line(reading.key(row)) == reading.line(row)) {
        rows.add(row);
        unnumbered.set(row);
      }
    }
    for (int from = 0; from < rows.size(); from += NUMBERS_AT_ONCE) {
      var part = rows.subList(from, Math.min(from + NUMBERS_AT_ONCE, rows.size()));
      Deque<PersonId> numbers =
          new ArrayDeque<>(
              tools.database.write(session -> tools.people.numbered(session, part.size())));
      part.forEach(row -> keys.give(reading.key(row), numbers.pop().value()));
    }
  }

  /**
   * Rows that are judged together.
   *
   * @param names keys met for the first time, with the numbers their people will have
   */
  private record Part(List<Row> rows, Map<String, PersonId> names) {}

  private record Prepared(Judge.Prepared rows, Map<String, PersonId> names) {}

  private void judgeAll(BitSet different, long set) throws IOException {
    var rows = people.again(reading.lines(different));
    try (rows;
        var keeper = new Keeper()) {
      judge = judge();
      Ahead.inOrder(
          new PartsOf(different, rows),
          part -> new Prepared(judge.prepare(part.rows()), part.names()),
          part -> judge(part, set, keeper));
      keeper.finish();
    }
  }

  /** The rows that must be looked at, part by part. */
  private final class PartsOf implements Iterator<Part> {
    private final BitSet different;
    private final Rows rows;
    private int next;

    PartsOf(BitSet different, Rows rows) {
      this.different = different;
      this.rows = rows;
      this.next = different.nextSetBit(0);
    }

    @Override
    public boolean hasNext() {
      return next >= 0;
    }

    @Override
    public Part next() {
      var part = new Part(new ArrayList<>(), new LinkedHashMap<>());
      while (next >= 0 && part.rows().size() < ROWS_AT_ONCE) {
        var row = wanted();
        part.rows().add(row);
        if (unnumbered.get(next) && Layout.mayBeKey(layout.key(row))) {
          part.names().put(layout.key(row), new PersonId(keys.person(reading.key(next))));
        }
        next = different.nextSetBit(next + 1);
      }
      return part;
    }

    /** A row in the place of another would be judged as that one's person. */
    private Row wanted() {
      var row = rows.next().orElseThrow();
      if (row.line() != reading.line(next)) {
        throw new IllegalStateException(
            "The second reading of %s gives line %d where the first had line %d"
                .formatted(made.file(), row.line(), reading.line(next)));
      }
      return row;
    }
  }

  private Judge judge() {
    return new Judge(
        new Judge.Tools(
            tools.database,
            tools.people,
            tools.sources,
            assertions,
            tools.clock.instant(),
            tools.clock.zone()),
        source,
        made.terms(),
        layout,
        catalogue,
        keys,
        vanished::contains,
        reading::lineLike,
        units);
  }

  private void judge(Prepared part, long set, Keeper keeper) {
    var rows = part.rows().rows();
    var judged = judge.judge(part.rows());
    counts.merge(Verdict.UNCHANGED, (long) judged.same().size(), Long::sum);
    judged.reports().forEach(this::count);
    for (int i = 0, next = 0; next < judged.reports().size(); i++) {
      var report = judged.reports().get(next);
      if (report.line() == rows.get(i).line()) {
        noteManager(report, rows.get(i));
        next++;
      }
    }
    judged.inputs().forEach(this::hold);
    keeper.keep(
        () -> {
          keep(judged, part.names(), set);
          progress.checked(rows.size());
        });
  }

  private void hold(Input input) {
    if (holdsAll) {
      held.computeIfAbsent(input.person(), _ -> new ArrayList<>()).add(input);
    }
    if (held.size() > MOST_HELD) {
      holdsAll = false;
      held.clear();
    }
  }

  private void keep(Judge.Judged judged, Map<String, PersonId> names, long set) {
    tools.database.writeForNow(
        session -> {
          tools.sources.reserve(session, source.name(), names);
          tools.sources.same(session, source.name(), judged.same());
          tools.imports.putRows(session, made.id(), judged.reports());
          tools.proposals.add(session, set, judged.inputs());
        });
  }

  private void count(RowReport report) {
    counts.merge(report.verdict(), 1L, Long::sum);
    if (report.verdict() == Verdict.NEW && files.linked() != null) {
      joining.add(report.person().value());
    }
    if (report.verdict() == Verdict.CHANGED) {
      report.edits().keySet().forEach(attribute -> changed.merge(attribute, 1L, Long::sum));
    }
  }

  private void noteManager(RowReport report, Row row) {
    var manager = report.values().get(Attributes.MANAGER);
    var goesOn = report.verdict() == Verdict.NEW || report.verdict() == Verdict.CHANGED;
    if (manager != null && goesOn) {
      managers.put(report.person().value(), Long.parseLong(manager));
      rowsWithManagers.put(report.person().value(), row);
    }
  }

  /** Loops can only be seen when all rows were. */
  private void refuseLoops(long set) {
    var loops =
        ManagerLoops.in(
            managers,
            asked -> tools.database.read(session -> tools.people.managersOf(session, asked)));
    for (var person : loops) {
      var row = rowsWithManagers.get(person);
      var checked = layout.check(row);
      var problem = layout.managersInALoop(checked, checked.values().get(Attributes.MANAGER));
      counts.merge(Verdict.REFUSED, 1L, Long::sum);
      joining.remove(person);
      held.remove(new PersonId(person));
      tools.database.writeAll(
          session -> {
            var old = tools.imports.row(session, made.id(), row.line()).orElseThrow();
            counts.merge(old.verdict(), -1L, Long::sum);
            tools.imports.putRow(session, made.id(), refused(old, layout.texts(row), problem));
            tools.proposals.drop(session, set, new PersonId(person));
          });
    }
  }

  private static RowReport refused(RowReport old, Map<String, String> texts, Problem problem) {
    return new RowReport(
        old.line(),
        Verdict.REFUSED,
        old.key(),
        null,
        texts,
        old.values(),
        Map.of(),
        List.of(problem),
        Map.of(),
        null);
  }

  /** Those of the vanished who are not leaving already. */
  private List<Missing> missing() {
    var missing = vanished.stream().map(PersonId::new).collect(Collectors.toSet());
    if (missing.isEmpty()) {
      return List.of();
    }
    return tools.database.read(
        session -> {
          var asserted = tools.people.assertions(session, missing);
          return tools.sources.keysOf(session, source.name(), missing).entrySet().stream()
              .filter(entry -> !isLeaving(asserted.get(entry.getKey())))
              .map(
                  entry ->
                      new Missing(entry.getValue(), entry.getKey(), Missing.Decision.UNDECIDED))
              .toList();
        });
  }

  /** Nothing asserted, or a last day known: nobody need be asked again. */
  private static boolean isLeaving(List<Assertions> assertions) {
    return assertions.isEmpty()
        || assertions.stream().anyMatch(one -> one.values().containsKey(Attributes.END_DATE));
  }

  private Problem noRows() {
    return new Problem(
        "file-without-rows",
        "%s has headings and no rows.".formatted(made.file()),
        "Taken as complete it would make everybody a leaver.",
        "Export it again.",
        Where.file(made.file()));
  }
}
