package ebb.core.execution;

import ebb.core.application.Connector;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.application.Wire;
import ebb.core.application.Wire.Exchange;
import ebb.core.change.Change;
import ebb.core.change.ChangeState;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.BiConsumer;
import java.util.function.Supplier;

/**
 * Carries out the changes of one application: claims some ahead, calls with no transaction open,
 * records what is done, many at once. Calls go on while others are claimed and recorded.
 */
public final class Worker implements AutoCloseable {
  private static final Duration LEASE = Duration.ofMinutes(5);

  /** What is not begun so soon is handed back, so that a lease ends only after a crash. */
  private static final Duration BEGUN_WITHIN = LEASE.dividedBy(2);

  /** Claimed and not begun, for each call: enough that none waits for a transaction. */
  private static final int AHEAD = 4;

  /** What is over so soon may be claimed ahead as well: many cost little more than few. */
  private static final double SOON = 0.5;

  private static final int MOST_AHEAD = 512;

  private static final int RECORDED_AT_ONCE = 500;

  /** Results are gathered so long while calls go on: recording one costs as much as many. */
  private static final Duration GATHERED = Duration.ofMillis(200);

  private static final Duration GATHERING_STEP = Duration.ofMillis(4);

  /** So many are recorded without waiting for more. */
  private static final int GATHERED_AT_MOST = 256;

  private static final Duration CALLERS_REST = Duration.ofSeconds(10);

  /** Beside all others. */
  private static final int URGENT_AT_ONCE = 8;

  private static final Duration LONGEST_WHERE_URGENT = Duration.ofSeconds(5);

  private final String application;
  private final Supplier<Connector> connection;
  private final Queue queue;
  private final Delays delays;
  private final InstantSource machineTime;
  private final int most;
  private final Pace pace;
  private final Breaker breaker;
  private final ExecutorService calls;
  private final ExecutorService urgentCalls = Executors.newVirtualThreadPerTaskExecutor();
  private final BlockingQueue<Result> finished = new LinkedBlockingQueue<>();
  private final BiConsumer<List<Result>, RuntimeException> unrecorded;
  private volatile int underWay;

  /** Whether what is claimed and not begun is handed back. */
  private volatile boolean holds;

  private int urgentUnderWay;
  private volatile double secondsEach;

  /** When the last batch was recorded that others followed at once; 0 if there was none. */
  private long recordedAt;

  private long lastRecordedAt = System.nanoTime();

  /**
   * How an application is to be treated.
   *
   * @param callsAtOnce at most
   * @param callsPerSecond at most; 0 for as many as go
   */
  public record Bounds(int callsAtOnce, double callsPerSecond) {}

  /** How much the newest batch says of how long a change takes. */
  private static final double NEWEST = 0.2;

  /**
   * @param unrecorded is told of results that cannot be recorded
   */
  public Worker(
      String application,
      Supplier<Connector> connection,
      Queue queue,
      Delays delays,
      InstantSource machineTime,
      Bounds bounds,
      BiConsumer<List<Result>, RuntimeException> unrecorded) {
    this.unrecorded = unrecorded;
    this.application = application;
    this.connection = connection;
    this.queue = queue;
    this.delays = delays;
    this.machineTime = machineTime;
    this.most = bounds.callsAtOnce();
    this.calls = callers(application, most);
    this.pace = new Pace(most, bounds.callsPerSecond(), machineTime);
    this.breaker = new Breaker(delays, machineTime);
  }

  /**
   * Threads of the machine, that end when they are idle: an answer wakes the one that waits for it,
   * which sends the next; a virtual one would be woken by way of two others.
   */
  private static ExecutorService callers(String application, int most) {
    var callers =
        new ThreadPoolExecutor(
            most,
            most,
            CALLERS_REST.toMillis(),
            TimeUnit.MILLISECONDS,
            new LinkedBlockingQueue<>(),
            Thread.ofPlatform().name("calls-" + application + "-", 0).daemon().factory());
    callers.allowCoreThreadTimeOut(true);
    return callers;
  }

  /**
   * One round: records what is done, and claims more.
   *
   * @param claims whether more may be claimed, and what is claimed be begun; what is urgent is in
   *     any case
   * @return how many changes were recorded and claimed; 0 means there is nothing to do now
   */
  public int round(boolean claims) {
    holds = !claims;
    return record() + claimUrgent() + (claims ? claim() : 0);
  }

  /** Waits until a call has ended, or for so long. */
  public void await(Duration longest) throws InterruptedException {
    var first = finished.poll(longest.toMillis(), TimeUnit.MILLISECONDS);
    if (first != null) {
      finished.add(first);
      while (gathers()) {
        // In steps: calls that could run dry are not known ahead.
        Thread.sleep(GATHERING_STEP);
      }
    }
  }

  /** Whether recording may wait for more: never where calls could run dry while it goes on. */
  private boolean gathers() {
    return finished.size() < GATHERED_AT_MOST
        && uncalled() > Math.max(most, ahead() / 2)
        && urgentUnderWay == 0
        && System.nanoTime() - lastRecordedAt < GATHERED.toNanos();
  }

  public Standing standing() {
    return new Standing(breaker.restsUntil(), breaker.why(), underWay, pace.atOnce(), secondsEach);
  }

  /**
   * Before anything was carried out: how long a change took in past runs.
   *
   * @param seconds 0 if nobody knows
   */
  public void expect(double seconds) {
    secondsEach = seconds;
  }

  /** Waits for calls that have begun; what they did is recorded if there is time for it. */
  @Override
  public void close() {
    calls.shutdown();
    urgentCalls.shutdown();
  }

  private int record() {
    if (gathers()) {
      return 0;
    }
    var done = new ArrayList<Result>();
    finished.drainTo(done, RECORDED_AT_ONCE);
    if (done.isEmpty()) {
      return 0;
    }
    try {
      queue.record(done, machineTime.instant());
    } catch (RuntimeException e) {
      recordEach(done, e);
    }
    underWay -= done.size();
    urgentUnderWay -= (int) done.stream().filter(result -> result.change().isUrgent()).count();
    timed(done.size());
    lastRecordedAt = System.nanoTime();
    return done.size();
  }

  /**
   * One that cannot be recorded must not keep the others: its lease runs out, and it is looked up.
   *
   * @throws RuntimeException if the queue is down: all are kept, and recorded in a later round
   */
  private void recordEach(List<Result> done, RuntimeException why) {
    var failed = new ArrayList<Result>();
    for (var one : done) {
      try {
        queue.record(List.of(one), machineTime.instant());
      } catch (RuntimeException e) {
        why.addSuppressed(e);
        failed.add(one);
      }
    }
    if (failed.size() == done.size() && isDown()) {
      finished.addAll(failed);
      throw why;
    }
    if (!failed.isEmpty()) {
      unrecorded.accept(failed, why);
    }
  }

  private boolean isDown() {
    try {
      queue.check();
      return false;
    } catch (RuntimeException _) {
      return true;
    }
  }

  private void timed(int changes) {
    var now = System.nanoTime();
    if (recordedAt != 0) {
      var each = (now - recordedAt) / 1e9 / changes;
      secondsEach = secondsEach == 0 ? each : secondsEach + NEWEST * (each - secondsEach);
    }
    recordedAt = underWay == 0 ? 0 : now;
  }

  private int claimUrgent() {
    var claimed = claim(true, URGENT_AT_ONCE - urgentUnderWay);
    urgentUnderWay += claimed;
    return claimed;
  }

  private int claim() {
    return breaker.isOpen() ? 0 : claim(false, room());
  }

  private int claim(boolean urgent, int room) {
    if (room <= 0) {
      return 0;
    }
    var now = machineTime.instant();
    var claims = queue.claim(application, urgent, room, now, now.plus(LEASE));
    // Asked for anew each time: an application may have been edited, and its connection reopened.
    var connector = claims.isEmpty() ? null : connection.get();
    underWay += claims.size();
    var callers = urgent ? urgentCalls : calls;
    var begunBy = now.plus(BEGUN_WITHIN);
    claims.forEach(
        claim -> callers.execute(() -> finished.add(carryOut(connector, claim, begunBy))));
    return claims.size();
  }

  /** How many more to claim. After a failure one change feels the way before the others follow. */
  private int room() {
    if (breaker.isFeelingTheWay()) {
      return underWay == 0 ? 1 : 0;
    }
    var ahead = ahead();
    var free = most + ahead - uncalled();
    return free < Math.max(most, ahead / 2) ? 0 : free;
  }

  /** Claimed, and no answer there yet. */
  private int uncalled() {
    return underWay - finished.size();
  }

  private int ahead() {
    return Math.max(most * AHEAD, Math.min(MOST_AHEAD, overSoon()));
  }

  private int overSoon() {
    var each = secondsEach;
    return each == 0 ? 0 : (int) (SOON / each);
  }

  private Result carryOut(Connector connector, Claim claim, Instant begunBy) {
    return switch (claim) {
      case Claim.Overtaken(var change) ->
          new Result(
              change.over(ChangeState.OVERTAKEN, machineTime.instant(), null), Optional.empty());
      case Claim.NotReady(var change, var why) ->
          new Result(later(change, ChangeState.QUEUED, null, why), Optional.empty());
      case Claim.Shutting(var change, var account) ->
          call(
              connector,
              change,
              false,
              begunBy,
              () -> ShutOff.apply(connector, account, change.group()));
      case Claim.CatchingUp(var change, var account) ->
          call(
              connector,
              change,
              false,
              begunBy,
              () -> CatchUp.apply(connector, account, change.group()));
      case Claim.Stripping(var change, var account, var standIn) ->
          call(connector, change, false, begunBy, () -> Strip.apply(connector, account, standIn));
      case Claim.Wanted(var change, var instruction, var looksFirst) ->
          call(
              connector,
              change,
              looksFirst,
              begunBy,
              () ->
                  looksFirst
                      ? LookFirst.apply(connector, instruction)
                      : connector.apply(instruction));
    };
  }

  private Result call(
      Connector connector,
      Change change,
      boolean looksFirst,
      Instant begunBy,
      Supplier<Outcome> call) {
    if (change.isUrgent()) {
      return noted(connector, change, call);
    }
    if (!mayBegin(begunBy)) {
      // Without a turn: where there are few a second, others need them.
      return notSent(change, Instant.EPOCH, looksFirst);
    }
    try {
      pace.enter();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return notSent(change, Instant.EPOCH, looksFirst);
    }
    try {
      if (!mayBegin(begunBy)) {
        return notSent(change, Instant.EPOCH, looksFirst);
      }
      if (breaker.isOpen()) {
        return notSent(change, breaker.restsUntil(), looksFirst);
      }
      return noted(connector, change, call);
    } finally {
      pace.leave();
    }
  }

  private boolean mayBegin(Instant begunBy) {
    return !holds && !machineTime.instant().isAfter(begunBy);
  }

  private Result noted(Connector connector, Change change, Supplier<Outcome> call) {
    var exchanges = new ArrayList<Exchange>();
    var outcome = Wire.noting(exchanges, () -> outcome(call));
    return result(connector, change, outcome, List.copyOf(exchanges));
  }

  /** A fault of the connector's own must not lose what it may have done. */
  private static Outcome outcome(Supplier<Outcome> call) {
    try {
      return call.get();
    } catch (RuntimeException e) {
      return new Outcome.Unknown(
          new Problem(
              "connector-fault",
              "Ebb's own connector met a fault.",
              e.toString(),
              "It is looked up and tried again; if that goes on, tell whoever looks after Ebb.",
              null));
    }
  }

  /** Others found meanwhile that nothing goes there now. */
  private static Result notSent(Change change, Instant until, boolean mayBeDone) {
    return new Result(change.notSent(until, mayBeDone), Optional.empty());
  }

  private Result result(
      Connector connector, Change change, Outcome outcome, List<Exchange> exchanges) {
    return switch (outcome) {
      case Outcome.Applied(var account) -> done(change, ChangeState.SEEN, account, exchanges);
      case Outcome.AlreadyInPlace(var account) ->
          done(change, ChangeState.SEEN, account, exchanges);
      case Outcome.Accepted() -> done(change, ChangeState.ACCEPTED, Optional.empty(), exchanges);
      case Outcome.Refused(var problem) -> {
        well();
        yield new Result(
            change.over(ChangeState.REFUSED, machineTime.instant(), problem),
            Optional.empty(),
            exchanges);
      }
      case Outcome.RetryLater(var after, var problem) -> {
        if (after != null) {
          pace.slower();
        }
        breaker.rest(after, problem);
        yield waits(later(change, ChangeState.QUEUED, after, problem), exchanges);
      }
      case Outcome.Met(var problem) ->
          waits(later(change, ChangeState.QUEUED, null, problem), exchanges);
      case Outcome.NotSeenYet(var after, var problem) -> {
        well();
        yield waits(later(change, ChangeState.UNSURE, after, problem), exchanges);
      }
      case Outcome.Unknown(var problem) -> {
        breaker.lost(problem);
        yield waits(later(change, ChangeState.UNSURE, settling(connector), problem), exchanges);
      }
    };
  }

  /** Before that, looking would say nothing about what was written. */
  private static Duration settling(Connector connector) {
    try {
      return connector.capabilities().settles();
    } catch (Unreachable _) {
      return null;
    }
  }

  private static Result waits(Change change, List<Exchange> exchanges) {
    return new Result(change, Optional.empty(), exchanges);
  }

  private Result done(
      Change change,
      ChangeState state,
      Optional<ObservedAccount> account,
      List<Exchange> exchanges) {
    well();
    return new Result(change.over(state, machineTime.instant(), null), account, exchanges);
  }

  private void well() {
    breaker.well();
    pace.takenWell();
  }

  private Change later(Change change, ChangeState state, Duration asked, Problem why) {
    var delay = Breaker.longer(asked, delays.after(change.attempts()));
    var shortened =
        change.isUrgent() && delay.compareTo(LONGEST_WHERE_URGENT) > 0
            ? LONGEST_WHERE_URGENT
            : delay;
    return change.waits(state, machineTime.instant().plus(shortened), why);
  }
}
