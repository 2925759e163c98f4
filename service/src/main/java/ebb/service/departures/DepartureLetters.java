package ebb.service.departures;

import ebb.core.departure.Departure;
import ebb.core.notice.Notice;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.service.notices.Addresses;
import ebb.service.notices.Telling;
import ebb.store.departures.DepartureAccount;
import ebb.store.departures.Departures;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Tells the manager of somebody who leaves what will happen and when, and that it is done. */
@Component
final class DepartureLetters implements Telling {
  private final Departures departures;
  private final People people;
  private final Addresses addresses;
  private final Notices notices;

  DepartureLetters(Departures departures, People people, Addresses addresses, Notices notices) {
    this.departures = departures;
    this.people = people;
    this.addresses = addresses;
    this.notices = notices;
  }

  void begun(StatelessSession session, Person leaver, Instant at) {
    tell(
        session,
        leaver,
        Notice.Kind.DEPARTURE_BEGUN,
        "%s has left: what happens now".formatted(leaver.displayName()),
        at);
  }

  /** Says once until when an account can be put back as it was. */
  void restoreEnds(
      StatelessSession session,
      Departure departure,
      String application,
      LocalDate until,
      Instant at) {
    people
        .get(session, departure.person())
        .ifPresent(
            leaver -> {
              var subject =
                  "The account of %s in %s can be restored until %s"
                      .formatted(leaver.displayName(), application, until);
              if (!notices.has(session, departure.person(), Notice.Kind.RESTORE_ENDS, subject)) {
                tell(session, leaver.person(), Notice.Kind.RESTORE_ENDS, subject, at);
              }
            });
  }

  void done(StatelessSession session, Departure departure, Instant at) {
    people
        .get(session, departure.person())
        .ifPresent(
            leaver ->
                tell(
                    session,
                    leaver.person(),
                    Notice.Kind.DEPARTURE_DONE,
                    "The departure of %s is done".formatted(leaver.displayName()),
                    at));
  }

  /** Nobody is told where there is no manager who can be reached: no gate waits for it. */
  private void tell(
      StatelessSession session, Person leaver, Notice.Kind kind, String subject, Instant at) {
    addresses
        .above(session, leaver)
        .ifPresent(address -> notices.add(session, leaver.id(), kind, address, subject, null, at));
  }

  @Override
  public Set<Notice.Kind> kinds() {
    return EnumSet.of(
        Notice.Kind.DEPARTURE_BEGUN, Notice.Kind.RESTORE_ENDS, Notice.Kind.DEPARTURE_DONE);
  }

  @Override
  public String letter(StatelessSession session, Notice notice, StoredPerson person) {
    if (notice.kind() == Notice.Kind.RESTORE_ENDS) {
      return """
          %s, with all that was in it.

          After that day nothing brings it back. What it owned is with somebody else already.
          If it is needed again, or something of it is missing, say so before.
          """
          .formatted(notice.subject());
    }
    var running =
        departures.running(session, notice.person()).stream()
            .filter(departure -> departure.kind() == Departure.Kind.DEPARTURE)
            .findFirst();
    return notice.kind() == Notice.Kind.DEPARTURE_DONE || running.isEmpty()
        ? """
          %s

          Nothing of theirs is left in use. What they had done stays in the records.
          """
            .formatted(notice.subject())
        : begun(session, person, running.get());
  }

  private String begun(StatelessSession session, StoredPerson person, Departure departure) {
    var deletion =
        departures.accounts(session, departure.id()).stream()
            .map(DepartureAccount::deleteFrom)
            .min(Comparator.naturalOrder())
            .orElse(departure.lastDay());
    return """
        The last day of %1$s was %2$s. Their accounts are switched off, and nothing is lost so far.

        What they own is handed over from %3$s on%4$s.
        Accounts are deleted from %5$s on, once everything is handed over.

        If they are coming back, or something must be kept, say so before %3$s.
        """
        .formatted(
            person.displayName(),
            departure.lastDay(),
            departure.handOverFrom(),
            to(session, departure.recipient()),
            deletion);
  }

  private String to(StatelessSession session, PersonId recipient) {
    return recipient == null
        ? "; nobody is named yet who gets it"
        : ", to "
            + people
                .displayNames(session, Set.of(recipient))
                .getOrDefault(recipient, "person " + recipient);
  }
}
