package ebb.service.ends;

import ebb.core.notice.Notice;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.service.notices.Addresses;
import ebb.service.time.BusinessClock;
import ebb.service.work.RunningWork;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.EndWarnings;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Tells the sponsors of people whose last day is near, once for each last day. */
@Component
final class EndWatch implements RunningWork {
  private static final Logger LOG = LoggerFactory.getLogger(EndWatch.class);
  private static final int AT_ONCE = 200;

  private final Database database;
  private final BusinessClock clock;
  private final EndWarnings warnings;
  private final People people;
  private final Addresses addresses;
  private final Notices notices;
  private final Journal journal;
  private final int days;
  private final List<String> kinds;

  EndWatch(
      Database database,
      BusinessClock clock,
      EndWarnings warnings,
      People people,
      Addresses addresses,
      Notices notices,
      Journal journal,
      @Value("${ebb.end-warning-days}") int days,
      @Value("${ebb.end-warning-kinds}") List<String> kinds) {
    this.database = database;
    this.clock = clock;
    this.warnings = warnings;
    this.people = people;
    this.addresses = addresses;
    this.notices = notices;
    this.journal = journal;
    this.days = days;
    this.kinds = kinds.stream().map(kind -> kind.toLowerCase(Locale.ROOT)).toList();
  }

  @Override
  public Map<String, Long> running(StatelessSession session) {
    return Map.of("last days", (long) due(session).size());
  }

  @Scheduled(fixedDelayString = "${ebb.end-warnings-every:PT2S}")
  @EventListener(BusinessClock.Moved.class)
  void look() {
    try {
      while (!database.read(this::due).isEmpty() && database.write(this::warn) == AT_ONCE) {
        // A season may end for hundreds on one day.
      }
    } catch (RuntimeException e) {
      LOG.error("Last days that are near could not be looked for; this is tried again", e);
    }
  }

  private int warn(StatelessSession session) {
    var found = due(session);
    if (!found.isEmpty()) {
      // Another process may have found the same: whoever comes second finds nobody any more.
      people.lock(session, found);
      people.getAll(session, due(session)).values().forEach(person -> warn(session, person));
    }
    return found.size();
  }

  private List<PersonId> due(StatelessSession session) {
    var today = clock.today();
    return warnings.due(session, today, today.plusDays(days), kinds, AT_ONCE);
  }

  private void warn(StatelessSession session, StoredPerson stored) {
    var person = stored.person();
    var lastDay = person.date(Attributes.END_DATE).orElseThrow();
    var sponsor = addresses.above(session, person).orElse(null);
    notices.add(
        session,
        person.id(),
        Notice.Kind.ENDING,
        sponsor,
        "%s ends on %s".formatted(stored.displayName(), lastDay),
        null,
        clock.instant());
    warnings.told(session, person.id(), lastDay);
    journal.write(session, clock.instant(), told(person.id(), lastDay.toString()));
  }

  private static Deed told(PersonId person, String lastDay) {
    return Deed.of("ebb", "wrote to the sponsor of the last day, " + lastDay, person);
  }
}
