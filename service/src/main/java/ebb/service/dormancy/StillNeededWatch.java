package ebb.service.dormancy;

import ebb.core.application.Level;
import ebb.core.change.Cause;
import ebb.core.change.Input;
import ebb.core.dormancy.StillNeeded;
import ebb.core.dormancy.StillNeeded.Answer;
import ebb.core.person.Suspension;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.AccountUses;
import ebb.store.applications.Accounts;
import ebb.store.applications.StillNeededs;
import ebb.store.people.Suspensions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Switches off what nobody needs: so said, or not answered by the day that was named. It goes
 * through the guard like all that releases itself.
 */
@Component
final class StillNeededWatch implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(StillNeededWatch.class);
  private static final int AT_ONCE = 500;

  private final Database database;
  private final BusinessClock clock;
  private final StillNeededs asked;
  private final Accounts accounts;
  private final AccountUses uses;
  private final Suspensions suspensions;
  private final Proposals proposals;
  private final Releases releases;

  StillNeededWatch(
      Database database,
      BusinessClock clock,
      StillNeededs asked,
      Accounts accounts,
      AccountUses uses,
      Suspensions suspensions,
      Proposals proposals,
      Releases releases) {
    this.database = database;
    this.clock = clock;
    this.asked = asked;
    this.accounts = accounts;
    this.uses = uses;
    this.suspensions = suspensions;
    this.proposals = proposals;
    this.releases = releases;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("usage checks", (long) asked.notNeeded(session, clock.today(), AT_ONCE).size());
  }

  @Scheduled(fixedDelay = 2_000)
  @EventListener(BusinessClock.Moved.class)
  synchronized void look() {
    try {
      var due = database.read(session -> asked.notNeeded(session, clock.today(), AT_ONCE));
      if (!due.isEmpty()) {
        settle(due);
      }
    } catch (RuntimeException e) {
      LOG.error("What nobody needs could not be switched off; this is tried again", e);
    }
  }

  private void settle(List<StillNeeded> due) {
    var off = new TreeMap<String, List<StillNeeded>>();
    var settled = new ArrayList<StillNeeded>();
    database
        .read(session -> byWhetherOff(session, due))
        .forEach(
            (isToBeOff, all) ->
                all.forEach(
                    one -> {
                      if (isToBeOff) {
                        off.computeIfAbsent(one.application(), _ -> new ArrayList<>()).add(one);
                      } else {
                        settled.add(one);
                      }
                    }));
    keep(settled, Answer.SETTLED);
    off.forEach(this::suspend);
  }

  /** Who signed in since it was asked needs no answer; what is off already is settled, too. */
  private Map<Boolean, List<StillNeeded>> byWhetherOff(
      StatelessSession session, List<StillNeeded> due) {
    var ids = due.stream().map(StillNeeded::account).toList();
    var known = accounts.getAll(session, ids);
    var signedIn = uses.signedInAt(session, ids);
    return due.stream()
        .collect(
            Collectors.partitioningBy(
                one ->
                    known.containsKey(one.account())
                        && known.get(one.account()).level() == Level.ACTIVE
                        && one.person().equals(known.get(one.account()).person())
                        && !signedIn
                            .getOrDefault(one.account(), Instant.MIN)
                            .isAfter(one.askedAt())));
  }

  /** Kept after it was ordered: a crash between orders it twice, and the second changes nothing. */
  private void suspend(String application, List<StillNeeded> all) {
    var numbers = database.write(session -> suspensions.numbers(session, all.size()));
    var set =
        proposals.propose(
            Cause.DATE,
            "accounts in %s that nobody needs".formatted(application),
            Releases.BY_ITSELF,
            null,
            all.stream()
                .map(one -> new Input.Suspend(one.person(), suspension(numbers.pop(), one)))
                .toList());
    releases.releaseByItself(set);
    keep(all.stream().filter(one -> one.answer() == Answer.OPEN).toList(), Answer.SILENT);
    keep(all.stream().filter(one -> one.answer() == Answer.NOT_NEEDED).toList(), Answer.GIVEN_UP);
  }

  private Suspension suspension(long number, StillNeeded one) {
    return new Suspension(
        number,
        one.person(),
        Suspension.Reason.DORMANT,
        one.answer() == Answer.OPEN
            ? "%s did not answer by %s".formatted(one.askedOf(), one.until())
            : "not needed any more, says %s".formatted(one.askedOf()),
        clock.today(),
        null,
        Set.of(one.application()),
        null,
        false,
        false,
        one.askedBy());
  }

  private void keep(Collection<StillNeeded> all, Answer how) {
    database.writeAll(
        session -> all.forEach(one -> asked.put(session, one.answered(how, clock.instant()))));
  }
}
