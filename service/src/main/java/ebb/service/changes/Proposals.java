package ebb.service.changes;

import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.Needs;
import ebb.core.change.Needs.Draft;
import ebb.core.change.SetState;
import ebb.core.change.Step;
import ebb.core.guard.ChangeGuard;
import ebb.core.guard.ChangeGuard.Load;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.service.connections.Connections;
import ebb.service.evaluation.AtHand;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.limits.LimitBook;
import ebb.service.time.BusinessClock;
import ebb.store.Ahead;
import ebb.store.Database;
import ebb.store.Keeper;
import ebb.store.applications.Accounts;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NavigableSet;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Makes change sets: gathers inputs, computes what follows from them, and shows it. */
@Component
public final class Proposals {
  /** Causes that change no inputs: a newer computation stands in place of what they proposed. */
  private static final Set<Cause> WITHOUT_INPUTS = Set.of(Cause.DATE, Cause.SYNC, Cause.CORRECTION);

  private static final int ROWS_AT_ONCE = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final Accounts accounts;
  private final LimitBook limits;
  private final SeatStops seats;
  private final Connections connections;

  Proposals(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      ChangeSets changeSets,
      Changes changes,
      Accounts accounts,
      LimitBook limits,
      SeatStops seats,
      Connections connections) {
    this.connections = connections;
    this.seats = seats;
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.changeSets = changeSets;
    this.changes = changes;
    this.accounts = accounts;
    this.limits = limits;
  }

  /** Begins a set; inputs are added to it, then it is shown. */
  public ChangeSet begin(Cause cause, String title, String by, Long takesBack) {
    return database.write(
        session -> {
          var set =
              ChangeSet.begun(
                  changeSets.number(session), cause, title, takesBack, by, clock.instant());
          changeSets.insert(session, set);
          return set;
        });
  }

  public void add(long set, Collection<? extends Input> inputs) {
    if (!inputs.isEmpty()) {
      database.writeAll(session -> changeSets.addInputs(session, set, inputs));
    }
  }

  /** As {@link #add(long, Collection)}, within a transaction of the caller's. */
  public void add(StatelessSession session, long set, Collection<? extends Input> inputs) {
    if (!inputs.isEmpty()) {
      changeSets.addInputs(session, set, inputs);
    }
  }

  /** Gives up a set that was never released, as what it came from is read anew. */
  public void abandon(StatelessSession session, long id) {
    var set = changeSets.get(session, id).orElseThrow();
    if (set.state() == SetState.SHOWN || set.state() == SetState.DRAFT) {
      changes.withdrawAll(session, id);
      changeSets.update(session, set.in(SetState.DISCARDED, null, null));
    }
  }

  /** Takes a person's inputs out of a set that is not released. */
  public void drop(StatelessSession session, long set, PersonId person) {
    changeSets.dropInputs(session, set, person);
  }

  /**
   * Computes what follows from a set's inputs, and shows it.
   *
   * @param stops what is said against it already
   */
  public ChangeSet show(ChangeSet set, List<Problem> stops) {
    return show(
        set, stops, new PartsOf(set), (session, part) -> evaluator.load(session, part, set.id()));
  }

  /** As {@link #show(ChangeSet, List)}, where some of what is asked for is at hand. */
  public ChangeSet show(ChangeSet set, List<Problem> stops, AtHand atHand) {
    return show(
        set,
        stops,
        atHand.inputs().isEmpty()
            ? new PartsOf(set)
            : new PartsOf(atHand.inputs().get().navigableKeySet()),
        (session, part) -> evaluator.load(session, part, set.id(), atHand));
  }

  private ChangeSet show(ChangeSet set, List<Problem> stops, PartsOf parts, Loading loading) {
    var reserved = new Evaluator.Reserved();
    var needs = needs();
    compute(set, needs, parts, loading, (session, part) -> draftsOf(session, part, reserved));
    return shown(set, needs, stops);
  }

  /** Loads what is needed to compute people. */
  interface Loading extends BiFunction<StatelessSession, Collection<PersonId>, Evaluator.Loaded> {}

  /**
   * Computes a set part by part, and keeps what it would do.
   *
   * @param needs learns what must come before what
   * @param steps that belong to the set
   */
  void compute(
      ChangeSet set,
      Needs needs,
      Iterator<? extends Collection<PersonId>> parts,
      Loading loading,
      BiFunction<StatelessSession, Evaluator.Loaded, List<Draft>> steps) {
    try (var keeper = new Keeper()) {
      Ahead.inOrder(
          parts,
          part -> database.read(session -> loading.apply(session, part)),
          loaded -> {
            var drafts = database.read(session -> steps.apply(session, loaded));
            keeper.keep(() -> keep(set, drafts, needs));
          });
      keeper.finish();
    }
  }

  /** Everyone a set's inputs concern, part by part, nobody twice. */
  private final class PartsOf implements Iterator<Set<PersonId>> {
    private final Function<PersonId, TreeSet<PersonId>> after;
    private final Set<PersonId> had = new HashSet<>();
    private TreeSet<PersonId> next;

    PartsOf(ChangeSet set) {
      this(last -> peopleWithInputs(set, last));
    }

    /** All of them are known. */
    PartsOf(NavigableSet<PersonId> all) {
      this(
          last ->
              (last == null ? all : all.tailSet(last, false))
                  .stream().limit(Evaluator.PART).collect(Collectors.toCollection(TreeSet::new)));
    }

    private PartsOf(Function<PersonId, TreeSet<PersonId>> after) {
      this.after = after;
      this.next = after.apply(null);
    }

    @Override
    public boolean hasNext() {
      return !next.isEmpty();
    }

    @Override
    public Set<PersonId> next() {
      var part = database.read(session -> evaluator.withReaders(session, next));
      part.removeIf(person -> !had.add(person));
      next = after.apply(next.last());
      return part;
    }
  }

  /** Stops a set that is shown, beside what stops it already. */
  public void stop(long id, Problem stop) {
    database.writeAll(
        session -> {
          var set = changeSets.get(session, id).orElseThrow();
          var stops = new ArrayList<>(set.stops());
          stops.add(stop);
          changeSets.update(session, set.shown(stops, set.remarks()));
        });
  }

  /** Begins a set with these inputs and shows it. */
  public ChangeSet propose(
      Cause cause, String title, String by, Long takesBack, Collection<? extends Input> inputs) {
    var set = begin(cause, title, by, takesBack);
    add(set.id(), inputs);
    return show(set, List.of());
  }

  /**
   * Proposes to remove the differences of people whose inputs have not changed.
   *
   * @param wanted which steps belong to the set
   * @return empty if there are none
   */
  public Optional<ChangeSet> differences(
      Cause cause,
      String title,
      String by,
      Iterable<List<PersonId>> parts,
      Predicate<Draft> wanted) {
    return differences(
        cause,
        title,
        by,
        parts,
        (session, part) -> drafts(session, part).stream().filter(wanted).toList());
  }

  /** As {@link #differences(Cause, String, String, Iterable, Predicate)}, with steps of its own. */
  Optional<ChangeSet> differences(
      Cause cause,
      String title,
      String by,
      Iterable<List<PersonId>> parts,
      BiFunction<StatelessSession, List<PersonId>, List<Draft>> steps) {
    ChangeSet set = null;
    var needs = needs();
    for (var part : parts) {
      var drafts = database.read(session -> steps.apply(session, part));
      if (!drafts.isEmpty()) {
        set = set == null ? begin(cause, title, by, null) : set;
        keep(set, drafts, needs);
      }
    }
    return Optional.ofNullable(set).map(begun -> shown(begun, needs, List.of()));
  }

  /** A set of these steps, computed by nobody: orders, and deletions of a departure. */
  public ChangeSet steps(Cause cause, String title, String by, List<Draft> drafts) {
    var set = begin(cause, title, by, null);
    var needs = needs();
    keep(set, drafts, needs);
    return shown(set, needs, List.of());
  }

  /** Computes the part of these people in a shown set again, after an input of theirs changed. */
  public void showAnew(long id, Collection<PersonId> who) {
    database.writeAll(
        session -> {
          var set = changeSets.get(session, id).orElseThrow();
          var all = evaluator.withReaders(session, who);
          // Withdrawn first: what is proposed now must not hide that it is to be proposed again.
          changes.withdraw(session, id, all);
          var reserved = new Evaluator.Reserved();
          showAnew(session, set, drafts(session, set, who, reserved));
          changeSets.update(session, set);
        });
  }

  /** Puts these steps into a set, in place of what was withdrawn. */
  void showAnew(StatelessSession session, ChangeSet set, List<Draft> drafts) {
    var needs = needs();
    insert(session, set, drafts, needs);
    putNeeds(session, set, needs.ordered());
  }

  /** Steps that follow from what is known of these people, and are not on their way. */
  public List<Draft> drafts(StatelessSession session, Collection<PersonId> who) {
    // Asked before, too: what ends while accounts are read is not yet in them, and no longer on
    // its way.
    var before = changes.underWay(session, who);
    return notUnderWay(before, notUnderWay(session, who, flat(evaluator.evaluate(session, who))));
  }

  /** Steps for these people that are neither done nor on their way. */
  List<Draft> drafts(
      StatelessSession session,
      ChangeSet set,
      Collection<PersonId> who,
      Evaluator.Reserved reserved) {
    var all = evaluator.withReaders(session, who);
    var before = changes.underWay(session, all);
    return notUnderWay(before, draftsOf(session, evaluator.load(session, all, set.id()), reserved));
  }

  List<Draft> draftsOf(
      StatelessSession session, Evaluator.Loaded loaded, Evaluator.Reserved reserved) {
    return notUnderWay(
        session, loaded.known(), flat(evaluator.evaluate(session, loaded, reserved)));
  }

  static List<Draft> flat(List<Evaluated> evaluated) {
    return evaluated.stream().flatMap(person -> person.drafts().stream()).toList();
  }

  List<Draft> notUnderWay(StatelessSession session, Collection<PersonId> who, List<Draft> drafts) {
    if (drafts.isEmpty()) {
      return drafts;
    }
    return notUnderWay(changes.underWay(session, who), drafts);
  }

  static List<Draft> notUnderWay(Collection<Change> underWay, List<Draft> drafts) {
    return drafts.stream()
        .filter(draft -> underWay.stream().noneMatch(change -> covers(change, draft)))
        .toList();
  }

  private static boolean covers(Change change, Draft draft) {
    return change.person().equals(draft.person())
        && change.application().equals(draft.application())
        && change.kind() == draft.step().kind()
        && Objects.equals(change.group(), draft.step().group())
        && change.edits().keySet().containsAll(draft.step().edits().keySet());
  }

  private TreeSet<PersonId> peopleWithInputs(ChangeSet set, PersonId after) {
    return database.read(
        session -> new TreeSet<>(changeSets.nextPeople(session, set.id(), after, Evaluator.PART)));
  }

  /** Keeps a part of what a set would do, and notes what it needs. */
  private void keep(ChangeSet set, List<Draft> drafts, Needs needs) {
    for (int from = 0; from < drafts.size(); from += ROWS_AT_ONCE) {
      var part = drafts.subList(from, Math.min(from + ROWS_AT_ONCE, drafts.size()));
      // A set whose computing was broken off is begun anew; showing it brings all onto the disk.
      database.writeForNow(session -> insert(session, set, part, needs));
    }
  }

  private void insert(StatelessSession session, ChangeSet set, List<Draft> drafts, Needs needs) {
    var numbers = new ArrayDeque<>(changes.numbers(session, drafts.size()));
    var rows = new ArrayList<Change>();
    var who = new TreeSet<PersonId>();
    for (var draft : drafts) {
      if (!draft.step().kind().isOrder()) {
        who.add(draft.person());
      }
      rows.add(proposed(numbers.peek(), set, draft));
      needs.add(numbers.pop(), draft);
    }
    // An edited rule says only what it changes; what others propose stands beside that.
    if (set.cause() != Cause.RULE && !who.isEmpty()) {
      changes.withdrawOlder(session, set.id(), who, WITHOUT_INPUTS);
    }
    changes.add(session, rows);
  }

  static Change proposed(long number, ChangeSet set, Draft draft) {
    return Change.proposed(
        number, set.id(), draft.person(), draft.application(), draft.account(), draft.step());
  }

  /** Keeps the order of all of a set, and takes rings of references apart. */
  private void putNeeds(StatelessSession session, ChangeSet set, Needs.Ordered ordered) {
    changes.putNeeds(session, ordered.firsts());
    for (var split : ordered.splits()) {
      var create = changes.get(session, split.create()).orElseThrow();
      changes.putEdits(session, create.id(), Needs.without(create.edits(), split.attributes()));
      var follow = changes.numbers(session, 1).getFirst();
      var step =
          new Step(
              ChangeKind.UPDATE,
              Needs.only(create.edits(), split.attributes()),
              null,
              create.ground(),
              false);
      changes.add(
          session,
          List.of(
              Change.proposed(
                  follow,
                  set.id(),
                  create.person(),
                  create.application(),
                  create.account(),
                  step)));
      var firsts = new HashSet<>(split.accountsOf());
      firsts.add(create.id());
      changes.putNeeds(session, Map.of(follow, firsts));
    }
  }

  /** For one set, of whatever applications. */
  Needs needs() {
    return new Needs(connections::capabilities);
  }

  /** Shows a set that was computed. */
  ChangeSet shown(ChangeSet set, Needs needs, List<Problem> stops) {
    var ordered = needs.ordered();
    database.writeForNow(session -> putNeeds(session, set, ordered));
    var tooFew = seats.of(needs);
    var remarks = Foretold.of(needs);
    return database.write(
        session -> {
          var all = new ArrayList<>(stops);
          all.addAll(stops(session, set));
          all.addAll(tooFew);
          return shown(session, set, all, remarks);
        });
  }

  /** What the guard says of a set now: the window moves on. */
  List<Problem> stops(StatelessSession session, ChangeSet set) {
    return ChangeGuard.check(loads(session, set), limits.limits(session));
  }

  /** What a set would do to each application, beside what its cause did within the window. */
  private List<Load> loads(StatelessSession session, ChangeSet set) {
    var since = clock.instant().minus(ChangeGuard.WINDOW);
    var before = changes.takenSince(session, set.cause(), since);
    var now = changes.wouldTake(session, set.id());
    return now.entrySet().stream()
        .map(
            entry ->
                new Load(
                    entry.getKey(),
                    // As many as there were: those deleted since must not make the rest look few.
                    accounts.counts(session, entry.getKey()).entrySet().stream()
                            .filter(level -> level.getKey().exists())
                            .mapToLong(Map.Entry::getValue)
                            .sum()
                        + changes.countDeletedSince(session, entry.getKey(), since),
                    before.getOrDefault(entry.getKey(), Map.of()),
                    entry.getValue()))
        .toList();
  }

  private ChangeSet shown(
      StatelessSession session, ChangeSet set, List<Problem> stops, List<Problem> remarks) {
    changeSets.update(session, set.shown(stops, remarks));
    return changeSets.get(session, set.id()).orElseThrow();
  }
}
