package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Reading;
import ebb.core.application.Sightings;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeState;
import ebb.core.change.Step;
import ebb.core.execution.Worker.Bounds;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.rule.DesiredAccount;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReentrantLock;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class WorkerTest {
  private static final Problem WHY = new Problem("why", "what", "why", "remedy", null);

  private Instant now;
  private Application application;
  private Line queue;
  private Worker worker;
  private final List<Result> unrecorded = new ArrayList<>();

  @BeforeMethod
  void start() {
    now = Instant.parse("2027-03-01T12:00:00Z");
    application = new Application();
    queue = new Line();
    unrecorded.clear();
    var delays = new Delays(Duration.ofSeconds(1), Duration.ofMinutes(5), () -> 0.999);
    worker = worker(delays, new Bounds(1, 0));
  }

  @AfterMethod
  void close() {
    worker.close();
  }

  private Worker worker(Delays delays, Bounds bounds) {
    return new Worker(
        "app",
        () -> application,
        queue,
        delays,
        () -> now,
        bounds,
        (results, _) -> unrecorded.addAll(results));
  }

  @Test
  public void oneResultThatCannotBeRecordedKeepsNoOther() throws InterruptedException {
    for (int i = 1; i <= 3; i++) {
      queue.add(i);
    }
    queue.poison = 2L;

    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(queue.changes.get(3L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(unrecorded).extracting(result -> result.change().id()).containsExactly(2L);
  }

  @Test
  public void theOnlyResultThatCannotBeRecordedKeepsNothingThatFollows()
      throws InterruptedException {
    queue.add(1);
    queue.poison = 1L;
    work();
    queue.add(2);

    work();

    assertThat(queue.changes.get(2L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(unrecorded).extracting(result -> result.change().id()).containsExactly(1L);
  }

  @Test
  public void whileNothingCanBeRecordedTheResultsAreKept() throws InterruptedException {
    queue.add(1);
    queue.isDown = true;
    worker.round(true);
    worker.await(Duration.ofSeconds(5));
    assertThatThrownBy(() -> worker.round(true)).hasMessage("down");
    assertThat(worker.standing().underWay()).isEqualTo(1);

    queue.isDown = false;
    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  /** Rounds until nothing is under way; says how many changes were claimed. */
  private int work() throws InterruptedException {
    int claimed = 0;
    do {
      var before = worker.standing().underWay();
      var moved = worker.round(true);
      var after = worker.standing().underWay();
      claimed += (moved + after - before) / 2;
      if (after > 0) {
        worker.await(Duration.ofSeconds(5));
      }
    } while (worker.standing().underWay() > 0);
    return claimed;
  }

  @Test
  public void carriesOutAndRecords() throws InterruptedException {
    queue.add(1);

    assertThat(work()).isEqualTo(1);

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.accounts).containsOnlyKeys("ebb-1");
    assertThat(worker.round(true)).isZero();
  }

  @Test
  public void afterALostAnswerItLooksBeforeItSendsAgain() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.LOSE_ANSWER_AFTER_WRITE);

    work();
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.UNSURE);
    now = now.plusSeconds(10);
    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  @Test
  public void aRequestThatNeverArrivedIsSentAgain() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.LOSE_ANSWER_BEFORE_WRITE);

    work();
    now = now.plusSeconds(10);
    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  @Test
  public void anApplicationThatIsDownRestsWithGrowingDelays() throws InterruptedException {
    queue.add(1);
    var rests = new ArrayList<Long>();
    for (int i = 0; i < 4; i++) {
      application.next.add(Fault.DOWN);
      work();
      rests.add(Duration.between(now, worker.standing().restsUntil()).toMillis());
      assertThat(worker.round(true)).as("it rests").isZero();
      assertThat(worker.standing().why()).isEqualTo(WHY);
      now = now.plus(Duration.ofMinutes(10));
    }

    assertThat(rests).isSorted().doesNotHaveDuplicates();
    work();
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(worker.standing().restsUntil()).isBefore(now);
    assertThat(worker.standing().why()).isNull();
  }

  @Test
  public void afterAFailureOneChangeFeelsTheWayAndTheOthersAreNotEvenSent()
      throws InterruptedException {
    for (int i = 1; i <= 4; i++) {
      queue.add(i);
    }
    application.next.add(Fault.DOWN);

    work();

    assertThat(application.calls).as("the rest was put back").isEqualTo(1);
    assertThat(queue.changes.values())
        .allMatch(change -> change.state() == ChangeState.QUEUED)
        .extracting(Change::attempts)
        .containsExactlyInAnyOrder(1, 0, 0, 0);
    now = now.plusSeconds(60);
    assertThat(worker.round(true)).as("one feels the way").isEqualTo(1);
    work();
    work();
    assertThat(application.accounts).hasSize(4);
  }

  @Test
  public void oneLostAnswerStopsNobodyElseAndThreeInARowDo() throws InterruptedException {
    for (int i = 1; i <= 9; i++) {
      queue.add(i);
    }
    application.next.addAll(List.of(Fault.LOSE_ANSWER_BEFORE_WRITE));
    work();
    assertThat(application.accounts).hasSizeGreaterThanOrEqualTo(4);
    assertThat(worker.standing().why()).isNull();

    now = now.plusSeconds(60);
    for (int i = 10; i <= 14; i++) {
      queue.add(i);
    }
    application.accounts.clear();
    application.next.addAll(
        List.of(
            Fault.LOSE_ANSWER_BEFORE_WRITE,
            Fault.LOSE_ANSWER_BEFORE_WRITE,
            Fault.LOSE_ANSWER_BEFORE_WRITE));
    work();

    assertThat(worker.standing().why()).isEqualTo(WHY);
    assertThat(worker.standing().restsUntil()).isAfter(now);
  }

  @Test
  public void whatIsNotShownYetIsLookedUpAndNotSentAgain() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.SHOWN_LATER);

    work();
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.UNSURE);
    assertThat(queue.changes.get(1L).due()).isEqualTo(now.plusSeconds(5));
    assertThat(worker.standing().why()).as("the application is well").isNull();
    now = now.plusSeconds(6);
    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  @Test
  public void whoAsksForFewerGetsFewerAndMoreAgainWhileItGoesWell() throws InterruptedException {
    worker.close();
    var delays = new Delays(Duration.ofSeconds(1), Duration.ofMinutes(5), () -> 0.999);
    worker = worker(delays, new Bounds(8, 0));
    queue.add(1);
    application.next.add(Fault.TOO_MANY);
    work();
    assertThat(worker.standing().atOnce()).isEqualTo(4);

    now = now.plus(Duration.ofMinutes(4));
    for (int i = 2; i < 100; i++) {
      queue.add(i);
    }
    for (int i = 0; i < 10; i++) {
      work();
    }

    assertThat(worker.standing().atOnce()).isEqualTo(8);
  }

  @Test
  public void noMoreCallsASecondThanAreAllowed() throws InterruptedException {
    worker.close();
    var delays = new Delays(Duration.ofSeconds(1), Duration.ofMinutes(5), () -> 0.999);
    worker = worker(delays, new Bounds(8, 50));
    for (int i = 1; i <= 11; i++) {
      queue.add(i);
    }

    var begin = System.nanoTime();
    work();

    assertThat(Duration.ofNanos(System.nanoTime() - begin)).isGreaterThan(Duration.ofMillis(190));
  }

  @Test
  public void whatIsUrgentIsCarriedOutWhileNothingElseMayBe() throws InterruptedException {
    queue.add(1);
    queue.addUrgent(2);

    assertThat(worker.round(false)).isEqualTo(1);
    worker.await(Duration.ofSeconds(5));
    worker.round(false);

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.QUEUED);
    assertThat(queue.changes.get(2L).state()).isEqualTo(ChangeState.SEEN);
  }

  @Test
  public void whatWasClaimedAheadIsNotBegunOnceNothingMayBe() throws InterruptedException {
    claimFiveOfWhichOneBegins();

    worker.round(false);
    application.line.unlock();
    while (worker.standing().underWay() > 0) {
      worker.await(Duration.ofSeconds(5));
      worker.round(false);
    }

    assertThat(queue.handedBack).containsExactlyInAnyOrder(2L, 3L, 4L, 5L);
    assertThat(application.writes).isEqualTo(1);
    assertThat(work()).isEqualTo(4);
    assertThat(application.writes).isEqualTo(5);
  }

  @Test
  public void whatWasClaimedLongAgoIsNotBegunBeforeItIsClaimedAgain() throws InterruptedException {
    claimFiveOfWhichOneBegins();

    now = now.plus(Duration.ofMinutes(3));
    application.line.unlock();
    while (worker.standing().underWay() > 0) {
      worker.await(Duration.ofSeconds(5));
      worker.round(true);
    }

    assertThat(queue.handedBack).containsExactlyInAnyOrder(2L, 3L, 4L, 5L);
    assertThat(application.writes).isEqualTo(5);
  }

  private void claimFiveOfWhichOneBegins() {
    for (int i = 1; i <= 5; i++) {
      queue.add(i);
    }
    application.line.lock();
    worker.round(true);
    while (application.calls == 0) {
      Thread.onSpinWait();
    }
  }

  @Test
  public void whatIsUrgentDoesNotWaitForAnApplicationThatRests() throws InterruptedException {
    queue.add(1);
    application.next.addAll(List.of(Fault.TOO_MANY, Fault.TOO_MANY));
    work();
    queue.addUrgent(2);

    work();
    assertThat(queue.changes.get(2L).due())
        .as("it is asked again soon, whatever the application would like")
        .isBeforeOrEqualTo(now.plusSeconds(5));
    now = now.plusSeconds(5);
    work();

    assertThat(queue.changes.get(2L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.QUEUED);
  }

  @Test
  public void aFaultOfTheConnectorItselfLosesNothing() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.BREAK);

    work();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.UNSURE);
    assertThat(queue.changes.get(1L).problem().code()).isEqualTo("connector-fault");
    assertThat(worker.standing().underWay()).isZero();
  }

  @Test
  public void waitsAsLongAsItWasAskedTo() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.TOO_MANY);

    work();

    assertThat(queue.changes.get(1L).due()).isEqualTo(now.plus(Duration.ofMinutes(3)));
  }

  @Test
  public void aConnectionThatWasReopenedIsUsedFromTheNextRoundOn() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.DOWN);
    work();
    var reopened = new Application();
    application = reopened;
    now = now.plusSeconds(60);

    work();

    assertThat(reopened.accounts).containsOnlyKeys("ebb-1");
  }

  @Test
  public void aRefusalStopsOnlyItself() throws InterruptedException {
    queue.add(1);
    queue.add(2);
    application.next.add(Fault.REFUSE);

    work();

    assertThat(queue.changes.values())
        .extracting(Change::state)
        .containsExactlyInAnyOrder(ChangeState.REFUSED, ChangeState.SEEN);
  }

  @Test
  public void delaysGrowUpToTheLongest() {
    var delays = new Delays(Duration.ofSeconds(1), Duration.ofSeconds(60), () -> 0.0);

    assertThat(delays.after(1)).isEqualTo(Duration.ofMillis(500));
    assertThat(delays.after(3)).isEqualTo(Duration.ofMillis(2000));
    assertThat(delays.after(1000)).isEqualTo(Duration.ofSeconds(30));
  }

  private enum Fault {
    DOWN,
    TOO_MANY,
    REFUSE,
    BREAK,
    SHOWN_LATER,
    LOSE_ANSWER_AFTER_WRITE,
    LOSE_ANSWER_BEFORE_WRITE
  }

  /** An application in memory, with faults. */
  private static final class Application implements Connector {
    final Map<String, ObservedAccount> accounts = new ConcurrentHashMap<>();
    final Deque<Fault> next = new ArrayDeque<>();

    /** Whoever holds it keeps calls from ending. */
    final Lock line = new ReentrantLock();

    int writes;
    volatile int calls;

    @Override
    public Capabilities capabilities() {
      return Capabilities.UNKNOWN;
    }

    @Override
    public Inspection inspect() {
      return new Inspection(capabilities(), List.of(), null);
    }

    @Override
    public Reading read(String since, Sightings to) {
      accounts.values().forEach(to::account);
      return Reading.OF_ALL;
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return Optional.ofNullable(accounts.get(accountId));
    }

    @Override
    public Optional<ObservedAccount> findByExternalId(String externalId) {
      return find(externalId);
    }

    @Override
    public synchronized Outcome apply(Instruction instruction) {
      calls++;
      line.lock();
      line.unlock();
      var fault = next.poll();
      return switch (fault) {
        case null -> new Outcome.Applied(Optional.of(written((Instruction.Create) instruction)));
        case DOWN -> new Outcome.RetryLater(null, WHY);
        case TOO_MANY -> new Outcome.RetryLater(Duration.ofMinutes(3), WHY);
        case REFUSE -> new Outcome.Refused(WHY);
        case BREAK -> throw new IllegalStateException("a fault of the connector");
        case SHOWN_LATER -> {
          written((Instruction.Create) instruction);
          yield new Outcome.NotSeenYet(Duration.ofSeconds(5), WHY);
        }
        case LOSE_ANSWER_BEFORE_WRITE -> new Outcome.Unknown(WHY);
        case LOSE_ANSWER_AFTER_WRITE -> {
          written((Instruction.Create) instruction);
          yield new Outcome.Unknown(WHY);
        }
      };
    }

    private ObservedAccount written(Instruction.Create create) {
      writes++;
      var account =
          new ObservedAccount(
              create.externalId(), create.externalId(), true, create.values(), new TreeSet<>());
      accounts.put(account.id(), account);
      return account;
    }

    @Override
    public void close() {}
  }

  /** A queue in memory. */
  private static final class Line implements Queue {
    final Map<Long, Change> changes = new ConcurrentSkipListMap<>();

    /** What came back from a claim without having been begun. */
    final List<Long> handedBack = new ArrayList<>();

    volatile Long poison;
    volatile boolean isDown;

    void add(long id) {
      changes.put(
          id,
          Change.proposed(id, 1, new PersonId(id), "app", null, Step.of(ChangeKind.CREATE, "rule"))
              .waits(ChangeState.QUEUED, Instant.EPOCH, null));
    }

    void addUrgent(long id) {
      changes.put(
          id,
          Change.proposed(
                  id,
                  1,
                  new PersonId(id),
                  "app",
                  id,
                  Step.of(ChangeKind.SUSPEND, DesiredAccount.EMERGENCY_STOP))
              .waits(ChangeState.QUEUED, Instant.EPOCH, null));
    }

    @Override
    public List<Claim> claim(
        String application, boolean urgent, int max, Instant now, Instant leaseUntil) {
      return changes.values().stream()
          .filter(change -> change.isUrgent() == urgent)
          .filter(
              change ->
                  change.state() == ChangeState.QUEUED || change.state() == ChangeState.UNSURE)
          .filter(change -> !change.due().isAfter(now))
          .limit(max)
          .<Claim>map(
              change -> {
                var asked = change.asked(now);
                changes.put(change.id(), asked);
                return new Claim.Wanted(
                    asked,
                    new Instruction.Create("ebb-" + change.person(), true, new TreeMap<>()),
                    change.state() == ChangeState.UNSURE);
              })
          .toList();
    }

    @Override
    public void check() {
      if (isDown) {
        throw new IllegalStateException("down");
      }
    }

    @Override
    public void record(List<Result> results, Instant now) {
      check();
      if (poison != null && results.stream().anyMatch(one -> one.change().id() == poison)) {
        throw new IllegalStateException("poison");
      }
      for (var result : results) {
        var change = result.change();
        changes.put(change.id(), change);
        if (change.state() == ChangeState.QUEUED && change.attempts() == 0) {
          handedBack.add(change.id());
        }
      }
    }
  }
}
