package ebb.core.execution;

import ebb.core.application.Connector;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.change.Change;
import ebb.core.change.ChangeState;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Supplier;

/**
 * Carries out the changes of one application: claims a batch, calls with no transaction open,
 * records the batch. An application that does not answer rests, with growing delays, while others
 * go on.
 */
public final class Worker {
  /** Longer than any call may take, so that a lease ends only after a crash. */
  private static final Duration LEASE = Duration.ofMinutes(2);

  private final String application;
  private final Supplier<Connector> connection;
  private final Queue queue;
  private final Delays delays;
  private final InstantSource machineTime;
  private final int callsAtOnce;
  private int failuresInARow;
  private Instant restsUntil = Instant.EPOCH;

  public Worker(
      String application,
      Supplier<Connector> connection,
      Queue queue,
      Delays delays,
      InstantSource machineTime,
      int callsAtOnce) {
    this.application = application;
    this.connection = connection;
    this.queue = queue;
    this.delays = delays;
    this.machineTime = machineTime;
    this.callsAtOnce = callsAtOnce;
  }

  /**
   * One round.
   *
   * @return how many changes were claimed; 0 means there is nothing to do now
   */
  public int round() throws InterruptedException {
    var now = machineTime.instant();
    if (now.isBefore(restsUntil)) {
      return 0;
    }
    // After a failure one change feels the way before the others follow.
    var claims =
        queue.claim(application, failuresInARow > 0 ? 1 : callsAtOnce * 4, now, now.plus(LEASE));
    if (!claims.isEmpty()) {
      queue.record(carryOut(claims), machineTime.instant());
    }
    return claims.size();
  }

  /** Until when this application is left alone; in the past if it is well. */
  public Instant restsUntil() {
    return restsUntil;
  }

  private List<Result> carryOut(List<Claim> claims) throws InterruptedException {
    // Asked for anew each round: an application may have been edited, and its connection reopened.
    var connector = connection.get();
    try (ExecutorService calls =
        Executors.newFixedThreadPool(callsAtOnce, Thread.ofVirtual().factory())) {
      var results = calls.invokeAll(claims.stream().map(claim -> call(connector, claim)).toList());
      return results.stream().map(Future::resultNow).toList();
    }
  }

  private Callable<Result> call(Connector connector, Claim claim) {
    return () ->
        switch (claim) {
          case Claim.Overtaken(var change) ->
              new Result(
                  change.over(ChangeState.OVERTAKEN, machineTime.instant(), null),
                  Optional.empty());
          case Claim.NotReady(var change, var why) ->
              new Result(later(change, ChangeState.QUEUED, null, why), Optional.empty());
          case Claim.Wanted(var change, var instruction, var looksFirst) ->
              result(
                  change,
                  looksFirst
                      ? LookFirst.apply(connector, instruction)
                      : connector.apply(instruction));
        };
  }

  private Result result(Change change, Outcome outcome) {
    var now = machineTime.instant();
    return switch (outcome) {
      case Outcome.Applied(var account) -> done(change.over(ChangeState.SEEN, now, null), account);
      case Outcome.AlreadyInPlace(var account) ->
          done(change.over(ChangeState.SEEN, now, null), account);
      case Outcome.Accepted() ->
          done(change.over(ChangeState.ACCEPTED, now, null), Optional.empty());
      case Outcome.Refused(var problem) ->
          done(change.over(ChangeState.REFUSED, now, problem), Optional.empty());
      case Outcome.RetryLater(var after, var problem) -> {
        rest(after);
        yield new Result(later(change, ChangeState.QUEUED, after, problem), Optional.empty());
      }
      case Outcome.Unknown(var problem) -> {
        rest(null);
        yield new Result(later(change, ChangeState.UNSURE, null, problem), Optional.empty());
      }
    };
  }

  private synchronized Result done(Change change, Optional<ObservedAccount> account) {
    failuresInARow = 0;
    restsUntil = Instant.EPOCH;
    return new Result(change, account);
  }

  private synchronized void rest(Duration asked) {
    var now = machineTime.instant();
    if (!now.isBefore(restsUntil)) {
      failuresInARow++;
      restsUntil = now.plus(longer(asked, delays.after(failuresInARow)));
    }
  }

  private Change later(Change change, ChangeState state, Duration asked, Problem why) {
    return change.waits(
        state, machineTime.instant().plus(longer(asked, delays.after(change.attempts()))), why);
  }

  private static Duration longer(Duration asked, Duration own) {
    return asked == null || asked.compareTo(own) < 0 ? own : asked;
  }
}
