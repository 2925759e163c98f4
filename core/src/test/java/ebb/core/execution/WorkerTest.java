package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeState;
import ebb.core.change.Step;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class WorkerTest {
  private static final Problem WHY = new Problem("why", "what", "why", "remedy", null);

  private Instant now;
  private Application application;
  private Line queue;
  private Worker worker;

  @BeforeMethod
  void start() {
    now = Instant.parse("2027-03-01T12:00:00Z");
    application = new Application();
    queue = new Line();
    var delays = new Delays(Duration.ofSeconds(1), Duration.ofMinutes(5), () -> 0.999);
    worker = new Worker("app", () -> application, queue, delays, () -> now, 1);
  }

  @Test
  public void carriesOutAndRecords() throws InterruptedException {
    queue.add(1);

    assertThat(worker.round()).isEqualTo(1);

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.accounts).containsOnlyKeys("ebb-1");
    assertThat(worker.round()).isZero();
  }

  @Test
  public void afterALostAnswerItLooksBeforeItSendsAgain() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.LOSE_ANSWER_AFTER_WRITE);

    worker.round();
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.UNSURE);
    now = now.plusSeconds(10);
    worker.round();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  @Test
  public void aRequestThatNeverArrivedIsSentAgain() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.LOSE_ANSWER_BEFORE_WRITE);

    worker.round();
    now = now.plusSeconds(10);
    worker.round();

    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(application.writes).isEqualTo(1);
  }

  @Test
  public void anApplicationThatIsDownRestsWithGrowingDelays() throws InterruptedException {
    queue.add(1);
    var rests = new ArrayList<Long>();
    for (int i = 0; i < 4; i++) {
      application.next.add(Fault.DOWN);
      worker.round();
      rests.add(Duration.between(now, worker.restsUntil()).toMillis());
      assertThat(worker.round()).as("it rests").isZero();
      now = now.plus(Duration.ofMinutes(10));
    }

    assertThat(rests).isSorted().doesNotHaveDuplicates();
    worker.round();
    assertThat(queue.changes.get(1L).state()).isEqualTo(ChangeState.SEEN);
    assertThat(worker.restsUntil()).isBefore(now);
  }

  @Test
  public void afterAFailureOneChangeFeelsTheWay() throws InterruptedException {
    for (int i = 1; i <= 4; i++) {
      queue.add(i);
    }
    application.next.addAll(List.of(Fault.DOWN, Fault.DOWN, Fault.DOWN, Fault.DOWN));
    worker.round();
    now = now.plusSeconds(60);

    assertThat(worker.round()).isEqualTo(1);
    assertThat(worker.round()).isEqualTo(3);
  }

  @Test
  public void waitsAsLongAsItWasAskedTo() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.TOO_MANY);

    worker.round();

    assertThat(queue.changes.get(1L).due()).isEqualTo(now.plus(Duration.ofMinutes(3)));
  }

  @Test
  public void aConnectionThatWasReopenedIsUsedFromTheNextRoundOn() throws InterruptedException {
    queue.add(1);
    application.next.add(Fault.DOWN);
    worker.round();
    var reopened = new Application();
    application = reopened;
    now = now.plusSeconds(60);

    worker.round();

    assertThat(reopened.accounts).containsOnlyKeys("ebb-1");
  }

  @Test
  public void aRefusalStopsOnlyItself() throws InterruptedException {
    queue.add(1);
    queue.add(2);
    application.next.add(Fault.REFUSE);

    worker.round();

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
    LOSE_ANSWER_AFTER_WRITE,
    LOSE_ANSWER_BEFORE_WRITE
  }

  /** An application in memory, with faults. */
  private static final class Application implements Connector {
    final Map<String, ObservedAccount> accounts = new ConcurrentHashMap<>();
    final Deque<Fault> next = new ArrayDeque<>();
    int writes;

    @Override
    public Capabilities capabilities() {
      return new Capabilities(Set.of(), Map.of(), false, false, false, false);
    }

    @Override
    public void readAll(Consumer<ObservedAccount> each) {
      accounts.values().forEach(each);
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
      var fault = next.poll();
      return switch (fault) {
        case null -> new Outcome.Applied(Optional.of(written((Instruction.Create) instruction)));
        case DOWN -> new Outcome.RetryLater(null, WHY);
        case TOO_MANY -> new Outcome.RetryLater(Duration.ofMinutes(3), WHY);
        case REFUSE -> new Outcome.Refused(WHY);
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
    final Map<Long, Change> changes = new TreeMap<>();

    void add(long id) {
      changes.put(
          id,
          Change.proposed(id, 1, new PersonId(id), "app", null, Step.of(ChangeKind.CREATE, "rule"))
              .waits(ChangeState.QUEUED, Instant.EPOCH, null));
    }

    @Override
    public List<Claim> claim(String application, int max, Instant now, Instant leaseUntil) {
      return changes.values().stream()
          .filter(
              change ->
                  change.state() == ChangeState.QUEUED || change.state() == ChangeState.UNSURE)
          .filter(change -> !change.due().isAfter(now))
          .limit(max)
          .<Claim>map(
              change ->
                  new Claim.Wanted(
                      change.asked(now),
                      new Instruction.Create("ebb-" + change.person(), true, new TreeMap<>()),
                      change.state() == ChangeState.UNSURE))
          .toList();
    }

    @Override
    public void record(List<Result> results, Instant now) {
      results.forEach(result -> changes.put(result.change().id(), result.change()));
    }
  }
}
