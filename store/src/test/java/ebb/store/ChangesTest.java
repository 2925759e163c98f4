package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Application;
import ebb.core.application.Value;
import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.change.Step;
import ebb.core.compare.Edit;
import ebb.core.guard.Taken;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.applications.Applications;
import ebb.store.changes.ChangeQueue;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.changes.DueLooks;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.LongStream;
import org.hibernate.StatelessSession;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class ChangesTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final Instant LEASE = NOW.plusSeconds(120);

  private final Changes changes = new Changes();
  private final ChangeQueue queue = new ChangeQueue();
  private final ChangeSets changeSets = new ChangeSets();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
    // Whoever claims holds the application's row meanwhile.
    database.writeAll(
        s -> new Applications().put(s, Application.connected("app", "scim", Map.of()), null));
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void whatIsProposedIsNeverClaimed() {
    add(3, Map.of());

    assertThat(claim(10)).isEmpty();
    release(1, 2, 3);
    assertThat(claim(10)).extracting(Change::id).containsExactly(1L, 2L, 3L);
  }

  @Test
  public void aChangeIsClaimedOnceUntilItsLeaseEnds() {
    add(1, Map.of());
    release(1);

    assertThat(claim(10)).hasSize(1);
    assertThat(claim(10)).isEmpty();
    var again =
        database.write(
            s -> queue.claim(s, "app", false, 10, LEASE.plusSeconds(1), LEASE.plusSeconds(200)));
    assertThat(again)
        .singleElement()
        .satisfies(change -> assertThat(change.state()).isEqualTo(ChangeState.UNSURE));
  }

  @Test
  public void whatIsWrittenHereIsDueAtOnceAndWhatIsNotWithinASecond() {
    var looks = new DueLooks(database, queue);
    add(2, Map.of());
    assertThat(looks.isAny("app", false, NOW)).isFalse();

    release(1);
    assertThat(looks.isAny("app", false, NOW)).isTrue();
    assertThat(looks.isAny("app", true, NOW)).isFalse();

    // What another process writes is not counted here.
    claim(10);
    assertThat(looks.isAny("app", false, NOW)).isFalse();
    database.read(s -> releaseOf(s, 2));
    assertThat(looks.isAny("app", false, NOW.plusMillis(999))).isFalse();
    assertThat(looks.isAny("app", false, NOW.plusSeconds(1))).isTrue();
  }

  @Test
  public void aLookHoldsNoLongerWhereTheClockIsPutBack() {
    var looks = new DueLooks(database, queue);
    add(1, Map.of());
    assertThat(looks.isAny("app", false, NOW.plusSeconds(3600))).isFalse();

    database.read(s -> releaseOf(s, 1));

    assertThat(looks.isAny("app", false, NOW)).isTrue();
  }

  @Test
  public void whatIsLeftClaimedIsDueOnceItsLeaseHasEnded() {
    var looks = new DueLooks(database, queue);
    add(1, Map.of());
    release(1);
    claim(10);

    assertThat(looks.isAny("app", false, LEASE)).isFalse();
    assertThat(looks.isAny("app", false, LEASE.plusSeconds(1))).isTrue();
  }

  @Test
  public void manyWorkersNeverShareAChange() throws Exception {
    add(200, Map.of());
    release(LongStream.rangeClosed(1, 200).toArray());
    var seen = new ArrayList<Long>();

    try (var workers = Executors.newFixedThreadPool(8)) {
      Callable<List<Long>> work =
          () -> {
            var mine = new ArrayList<Long>();
            for (var claimed = claim(7); !claimed.isEmpty(); claimed = claim(7)) {
              claimed.forEach(change -> mine.add(change.id()));
            }
            return mine;
          };
      for (var result :
          workers.invokeAll(List.of(work, work, work, work, work, work, work, work))) {
        seen.addAll(result.get());
      }
    }

    assertThat(seen).hasSize(200);
    assertThat(new HashSet<>(seen)).hasSize(200);
  }

  @Test
  public void aChangeWaitsForWhatItNeedsFirst() {
    add(2, Map.of(2L, Set.of(1L)));
    release(1, 2);

    var first = claim(10);
    assertThat(first).extracting(Change::id).containsExactly(1L);
    record(first.getFirst().asked(NOW).over(ChangeState.SEEN, NOW, null));
    assertThat(claim(10)).extracting(Change::id).containsExactly(2L);
  }

  @Test
  public void aRefusalBlocksAllThatNeedsItAndARetryFreesThem() {
    add(4, Map.of(2L, Set.of(1L), 3L, Set.of(2L)));
    release(1, 2, 3, 4);
    var why = new Problem("name-taken", "The name is taken.", "why", "remedy", null);

    record(claim(1).getFirst().asked(NOW).over(ChangeState.REFUSED, NOW, why));

    assertThat(states())
        .containsExactlyInAnyOrder(
            ChangeState.REFUSED, ChangeState.BLOCKED, ChangeState.BLOCKED, ChangeState.QUEUED);
    var found1 = database.write(s -> changes.retry(s, 1, NOW));
    assertThat(found1).isEqualTo(3);
    assertThat(claim(10)).extracting(Change::id).containsExactlyInAnyOrder(1L, 4L);
  }

  @Test
  public void whatStandsSomewhereIsFoundWithoutNamingItsSetOrApplication() {
    add(4, Map.of());
    release(1, 2, 3);
    claim(2);

    var counts = database.read(s -> queue.counts(s, "app"));
    assertThat(counts.waiting()).isEqualTo(1);
    assertThat(counts.underWay()).isEqualTo(2);
    assertThat(count(ChangeState.QUEUED, ChangeState.CLAIMED)).isEqualTo(3);
    assertThat(count(ChangeState.REFUSED)).isZero();
    assertThat(setsWith(ChangeState.PROPOSED)).containsExactly(1L);
    assertThat(setsWith(ChangeState.REFUSED, ChangeState.BLOCKED)).isEmpty();
  }

  private long count(ChangeState... states) {
    return database.read(s -> changes.count(s, List.of(states)));
  }

  private List<Long> setsWith(ChangeState... states) {
    return database.read(s -> changeSets.withChanges(s, List.of(states), 10)).stream()
        .map(ChangeSet::id)
        .toList();
  }

  @Test
  public void aChangeComesBackAsItWasWritten() {
    add(1, Map.of());

    var found =
        database
            .read(s -> changes.list(s, 1, null, null, Reach.EVERYBODY, 0L, 10))
            .items()
            .getFirst();

    assertThat(found).isEqualTo(change(1));
  }

  @Test
  public void aSetIsWrittenOnlyAtTheVersionThatWasRead() {
    add(0, Map.of());
    var set = database.read(s -> changeSets.get(s, 1)).orElseThrow();

    var found2 = database.write(s -> changeSets.update(s, set));
    assertThat(found2).isTrue();
    var found3 = database.write(s -> changeSets.update(s, set));
    assertThat(found3).isFalse();
  }

  @Test
  public void whatASetWouldTakeAndWhatWasTakenBeforeAreCountedByApplication() {
    add(0, Map.of());
    database.writeAll(
        session ->
            changes.add(
                session,
                List.of(
                    change(1, Step.of(ChangeKind.SUSPEND, "date")),
                    change(2, Step.of(ChangeKind.SUSPEND, "date")),
                    change(3, new Step(ChangeKind.UPDATE, edits(3), null, "rule", false)),
                    change(4, new Step(ChangeKind.CREATE, edits(4), null, "rule", true)))));
    var all = Map.of("app", Map.of(Taken.SUSPEND, 2L, Taken.RENAME, 1L));

    assertThat(database.<Object>read(s -> changes.wouldTake(s, 1))).isEqualTo(all);
    assertThat(taken(Cause.IMPORT, NOW)).isEqualTo(Map.of());

    database.writeAll(
        session -> {
          var set = changeSets.get(session, 1).orElseThrow();
          changeSets.update(session, set.in(SetState.RELEASED, "ida", NOW));
        });
    release(1, 2, 3, 4);

    assertThat(database.<Object>read(s -> changes.wouldTake(s, 1))).isEqualTo(Map.of());
    assertThat(taken(Cause.IMPORT, NOW)).isEqualTo(all);
    assertThat(taken(Cause.IMPORT, NOW.plusSeconds(1)))
        .as("the window moved on")
        .isEqualTo(Map.of());
    assertThat(taken(Cause.FEED, NOW)).as("another cause").isEqualTo(Map.of());
  }

  @Test
  public void aSetTellsWhichKeysItChangedAndUnderWhichItTookRowsIn() {
    add(0, Map.of());
    var person = new PersonId(5);
    var rekey = new Input.Rekey(person, "hr", "7", "17");
    var move = new Input.MoveKey(person, "pay", "P5", new PersonId(6));
    var link = new Input.Link(person, 4711);
    database.writeAll(
        session ->
            changeSets.addInputs(
                session,
                1,
                List.of(
                    new Input.Assert(person, "hr", "17", null, Map.of("title", "Mate")),
                    new Input.Assert(person, "hand", null, null, Map.of("title", "Cook")),
                    rekey,
                    move,
                    link)));
    assertThat(changesOfIdentity()).as("not taken in yet").isEmpty();

    database.writeAll(session -> changeSets.markApplied(session, 1, List.of(person)));

    assertThat(changesOfIdentity()).containsExactly(rekey, move, link);
    assertThat(database.<Object>read(s -> changeSets.keysSaid(s, person, "hr", List.of(1L))))
        .isEqualTo(Map.of(1L, List.of("17")));
  }

  private List<Input> changesOfIdentity() {
    return database.read(s -> changeSets.changesOfIdentity(s, 1));
  }

  private Object taken(Cause cause, Instant since) {
    return database.<Object>read(s -> changes.takenSince(s, cause, since));
  }

  private void add(int count, Map<Long, Set<Long>> needs) {
    database.writeAll(
        session -> {
          changeSets.insert(
              session,
              ChangeSet.begun(1, Cause.IMPORT, "import", null, "ida", NOW)
                  .shown(List.of(), List.of()));
          changes.add(
              session, LongStream.rangeClosed(1, count).mapToObj(ChangesTest::change).toList());
          changes.putNeeds(session, needs);
        });
  }

  private static Change change(long id) {
    return change(id, new Step(ChangeKind.CREATE, edits(id), null, "rule", true));
  }

  private static Change change(long id, Step step) {
    return Change.proposed(id, 1, new PersonId(id), "app", null, step);
  }

  private static TreeMap<String, Edit> edits(long id) {
    var edits = new TreeMap<String, Edit>();
    edits.put("userName", new Edit(List.of("old"), Value.of("p" + id), "rule"));
    edits.put("manager", new Edit(List.of(), Value.accountOf(new PersonId(9)), "rule"));
    return edits;
  }

  private void release(long... people) {
    database.write(session -> releaseOf(session, people));
  }

  private long releaseOf(StatelessSession session, long... people) {
    return changes.release(
        session,
        1,
        LongStream.of(people).mapToObj(PersonId::new).toList(),
        EnumSet.allOf(ChangeKind.class));
  }

  private List<Change> claim(int max) {
    return database.write(s -> queue.claim(s, "app", false, max, NOW, LEASE));
  }

  private void record(Change change) {
    database.writeAll(s -> queue.record(s, List.of(change)));
  }

  private List<ChangeState> states() {
    return database
        .read(s -> changes.list(s, 1, null, null, Reach.EVERYBODY, 0L, 10))
        .items()
        .stream()
        .map(Change::state)
        .toList();
  }
}
