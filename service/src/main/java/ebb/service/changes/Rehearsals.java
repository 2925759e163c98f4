package ebb.service.changes;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Needs.Draft;
import ebb.core.change.SetState;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.rule.RuleEdit;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.evaluation.Everyone;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.rules.Rules;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Shows what follows from edited rules before they are in force: everyone is computed with them and
 * without, and what differs is the set. Whoever came between that and the release is looked at once
 * more after it.
 */
@Component
public final class Rehearsals {
  private static final Logger LOG = LoggerFactory.getLogger(Rehearsals.class);
  private static final Duration PATIENCE = Duration.ofSeconds(5);

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Everyone everyone;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final People people;
  private final PeopleLists lists;
  private final Rules rules;
  private final Journal journal;
  private final ExecutorService rehearsing = Executors.newSingleThreadExecutor();
  private final Map<Long, Progress> progress = new ConcurrentHashMap<>();

  Rehearsals(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      Everyone everyone,
      Proposals proposals,
      ChangeSets changeSets,
      Changes changes,
      People people,
      PeopleLists lists,
      Rules rules,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.everyone = everyone;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.changes = changes;
    this.people = people;
    this.lists = lists;
    this.rules = rules;
    this.journal = journal;
  }

  /**
   * How many people were computed.
   *
   * @param of how many there are
   */
  record Progress(long done, long of) {}

  /** Empty if the set is not being computed by this process. */
  Optional<Progress> progress(long set) {
    return Optional.ofNullable(progress.get(set));
  }

  /**
   * Begins a set with these edits, and shows what follows from them. An edit of the same rule that
   * waits in another set is given up.
   *
   * @param takesBack the set that is taken back by it; null for none
   * @return the set: shown, or still a draft if computing it takes longer than a caller waits
   */
  public ChangeSet rehearse(String title, String by, Long takesBack, List<RuleEdit> edits) {
    var set = proposals.begin(Cause.RULE, title, by, takesBack);
    database.writeAll(
        session -> {
          for (var edit : edits) {
            rules
                .waitingIn(session, edit.name())
                .ifPresent(other -> proposals.abandon(session, other));
          }
          rules.propose(session, set.id(), edits);
          journal.write(session, clock.instant(), Deed.of(by, "rehearsed " + title));
        });
    await(CompletableFuture.runAsync(() -> compute(set), rehearsing));
    return database.read(session -> changeSets.get(session, set.id())).orElseThrow();
  }

  private static void await(CompletableFuture<Void> computing) {
    try {
      computing.get(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException _) {
      // It goes on without the caller, who is told how far it has come.
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException e) {
      throw new IllegalStateException("A rehearsal broke off", e.getCause());
    }
  }

  private void compute(ChangeSet set) {
    try {
      tryToCompute(set);
    } catch (RuntimeException e) {
      // Whoever began it may have stopped waiting.
      LOG.error(
          "The rehearsal of change set {} broke off; it is begun anew at a start", set.id(), e);
      throw e;
    }
  }

  private void tryToCompute(ChangeSet set) {
    var reserved = new Evaluator.Reserved();
    var needs = proposals.needs();
    try {
      proposals.compute(
          set,
          needs,
          counted(set),
          (session, part) -> evaluator.load(session, part, set.id()),
          (session, part) -> difference(session, part, reserved));
      if (isDraft(set)) {
        proposals.shown(set, needs, unexpected(set));
      }
    } finally {
      progress.remove(set.id());
    }
    // Given up while it was computed: nothing of it may be left behind.
    database.writeAll(
        session -> {
          if (changeSets.get(session, set.id()).orElseThrow().state() == SetState.DISCARDED) {
            changes.withdrawAll(session, set.id());
          }
        });
  }

  /** What is to be done with the edits and would not be without them. */
  private List<Draft> difference(
      StatelessSession session, Evaluator.Loaded part, Evaluator.Reserved reserved) {
    var with = proposals.draftsOf(session, part, reserved);
    var without =
        Proposals.flat(evaluator.evaluateWithoutEdits(session, part, new Evaluator.Reserved()));
    return Shape.minus(with, without);
  }

  private Iterator<List<PersonId>> counted(ChangeSet set) {
    long of =
        database.read(
            session -> lists.count(session, PeopleFilter.EVERYONE, Integer.MAX_VALUE - 1));
    progress.put(set.id(), new Progress(0, of));
    var parts = everyone.iterator();
    return new Iterator<>() {
      private boolean goesOn = true;

      @Override
      public boolean hasNext() {
        return goesOn && parts.hasNext();
      }

      @Override
      public List<PersonId> next() {
        var part = parts.next();
        progress.computeIfPresent(
            set.id(), (_, before) -> new Progress(before.done() + part.size(), of));
        goesOn = isDraft(set);
        return part;
      }
    };
  }

  private boolean isDraft(ChangeSet set) {
    return database
        .read(session -> changeSets.get(session, set.id()))
        .filter(now -> now.state() == SetState.DRAFT)
        .isPresent();
  }

  private List<Problem> unexpected(ChangeSet set) {
    return database.read(
        session -> {
          var found = changes.countPeople(session, set.id(), Reach.EVERYBODY);
          return rules.edits(session, set.id()).stream()
              .map(RuleEdit::expected)
              .filter(Objects::nonNull)
              .filter(expected -> expected != found)
              .map(expected -> unexpected(expected, found))
              .distinct()
              .toList();
        });
  }

  private static Problem unexpected(long expected, long found) {
    return new Problem(
        "rule-not-as-expected",
        "Something changes for %d people; %d were expected.".formatted(found, expected),
        "The rule meets others than its author had in mind, or somebody came or went.",
        "Look at whom it concerns; correct the rule, or say why it is right.",
        null);
  }

  /** Those whose computing a crash broke off. */
  @EventListener(ApplicationReadyEvent.class)
  void resume() {
    for (var id : database.read(rules::unshown)) {
      var set = database.read(session -> changeSets.get(session, id)).orElseThrow();
      database.writeAll(session -> changes.withdrawAll(session, id));
      rehearsing.execute(() -> compute(set));
    }
  }

  /** Looks at everyone again, for whom rules came into force without it being shown. */
  @Scheduled(
      fixedDelayString = "${ebb.rules-settled-every:PT2S}",
      initialDelayString = "${ebb.background-begins-after:PT5S}")
  void settle() {
    for (var id : database.read(rules::unsettled)) {
      var set = database.read(session -> changeSets.get(session, id)).orElseThrow();
      if (set.state() == SetState.RELEASED || set.state() == SetState.DISCARDED) {
        settle(set);
        database.writeAll(session -> rules.settled(session, id));
      }
    }
  }

  @PreDestroy
  void stop() {
    rehearsing.shutdownNow();
  }

  private void settle(ChangeSet released) {
    everyone.forEach(this::keepAhead);
    var reserved = new Evaluator.Reserved();
    proposals.differences(
        Cause.RULE,
        released.title() + ": who came meanwhile",
        released.createdBy(),
        everyone,
        (session, part) -> lasting(session, part, released, reserved));
  }

  /** By other rules something may change on other days, and others may be read. */
  private void keepAhead(List<PersonId> part) {
    var evaluated = database.read(session -> evaluator.evaluate(session, part));
    var reads =
        evaluated.stream()
            .collect(Collectors.toMap(one -> one.subject().person().id(), Evaluated::reads));
    database.writeAll(
        session -> {
          people.keepAhead(session, evaluated.stream().map(Evaluated::resolved).toList());
          people.keepReads(session, reads);
        });
  }

  /**
   * What is being carried out at this very moment may look as if it were still to be done: only
   * what a second look finds too is so.
   */
  private List<Draft> lasting(
      StatelessSession session,
      List<PersonId> part,
      ChangeSet released,
      Evaluator.Reserved reserved) {
    var first = difference(session, evaluator.load(session, part, released.id()), reserved);
    if (first.isEmpty()) {
      return first;
    }
    var who = first.stream().map(Draft::person).collect(Collectors.toSet());
    var again = difference(session, evaluator.load(session, who, released.id()), reserved);
    return first.stream().filter(again::contains).toList();
  }
}
