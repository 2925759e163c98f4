package ebb.service.dormancy;

import ebb.core.application.Activity.Use;
import ebb.core.application.Application;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.service.connections.Connections;
import ebb.service.connections.SettingsCheck;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.AccountUses;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Asks applications once a day when each account in use was last used: those for which it is said
 * after how many days one is dormant. One pass at a time for each, one call after the other, so
 * that it is in nobody's way.
 */
@Component
final class UseWatch implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(UseWatch.class);
  private static final int AT_ONCE = 200;
  private static final Duration AFTER_A_FAILURE = Duration.ofMinutes(5);

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final Applications applications;
  private final Accounts accounts;
  private final AccountUses uses;
  private final Journal journal;
  private final Map<String, LocalDate> asked = new ConcurrentHashMap<>();
  private final Map<String, Instant> notBefore = new ConcurrentHashMap<>();
  private final Set<String> asking = ConcurrentHashMap.newKeySet();

  UseWatch(
      Database database,
      BusinessClock clock,
      Connections connections,
      Applications applications,
      Accounts accounts,
      AccountUses uses,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.applications = applications;
    this.accounts = accounts;
    this.uses = uses;
    this.journal = journal;
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("usage readings", (long) asking.size());
  }

  @Scheduled(fixedDelay = 2_000)
  void look() {
    for (var application : database.read(applications::list)) {
      if (isDue(application) && asking.add(application.name())) {
        Thread.ofVirtual().start(() -> askAll(application.name()));
      }
    }
  }

  private boolean isDue(Application application) {
    return application.settings().containsKey(SettingsCheck.DORMANT_AFTER)
        && application.pause() == null
        && !clock.today().equals(asked.get(application.name()))
        && !Instant.now().isBefore(notBefore.getOrDefault(application.name(), Instant.MIN))
        && connections.capabilities(application.name()).has(Part.ACTIVITY);
  }

  /** Has an application asked anew. */
  void again(String application) {
    asked.remove(application);
    notBefore.remove(application);
  }

  private void askAll(String application) {
    var today = clock.today();
    try {
      long last = 0;
      long all = 0;
      List<Long> part;
      do {
        var after = last;
        part = database.read(session -> uses.inUse(session, application, after, AT_ONCE));
        ask(application, part);
        all += part.size();
        last = part.isEmpty() ? last : part.getLast();
      } while (part.size() == AT_ONCE);
      note(application, all);
      asked.put(application, today);
    } catch (Unreachable e) {
      notBefore.put(application, Instant.now().plus(AFTER_A_FAILURE));
      LOG.info(
          "{} could not be asked who uses it; this is tried again: {}",
          application,
          e.problem().what());
    } catch (RuntimeException e) {
      notBefore.put(application, Instant.now().plus(AFTER_A_FAILURE));
      LOG.error("It could not be asked who uses {}; this is tried again", application, e);
    } finally {
      asking.remove(application);
    }
  }

  private void ask(String application, List<Long> part) throws Unreachable {
    var activity = connections.to(application).activity().orElseThrow();
    var known = database.read(session -> accounts.getAll(session, part));
    var said = new HashMap<Long, Use>();
    for (var account : known.values()) {
      activity.of(remote(account)).ifPresent(use -> said.put(account.id(), use));
    }
    database.writeAll(session -> uses.keep(session, application, said, clock.instant()));
  }

  private static String remote(Account account) {
    return account.observed().id();
  }

  private void note(String application, long all) {
    database.writeAll(
        session ->
            journal.write(
                session,
                clock.instant(),
                Deed.of("ebb", "asked %s when %d accounts were used".formatted(application, all))));
  }
}
