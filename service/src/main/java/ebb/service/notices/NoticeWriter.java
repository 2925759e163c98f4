package ebb.service.notices;

import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.execution.Result;
import ebb.core.notice.Notice;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.service.changes.Aftermath;
import ebb.store.changes.Changes;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Puts notices into the outbox when accounts become usable and when passwords were reset. */
@Component
final class NoticeWriter implements Aftermath {
  private final Changes changes;
  private final Addresses addresses;
  private final Notices notices;
  private final People people;

  NoticeWriter(Changes changes, Addresses addresses, Notices notices, People people) {
    this.changes = changes;
    this.addresses = addresses;
    this.notices = notices;
    this.people = people;
  }

  @Override
  public void recorded(StatelessSession session, List<Result> results, Instant at) {
    var opened = concerned(results, NoticeWriter::opensAccess);
    var reset = concerned(results, change -> change.kind() == ChangeKind.RESET);
    var both = new TreeSet<>(opened);
    both.addAll(reset);
    if (!both.isEmpty()) {
      // Two applications may be done with a person at once: one of them must see that it is last.
      people.lock(session, both);
    }
    welcome(session, opened, at);
    reset(session, reset, at);
  }

  private static boolean opensAccess(Change change) {
    return change.kind() == ChangeKind.OPEN
        || (change.kind() == ChangeKind.CREATE && change.usable());
  }

  private static Set<PersonId> concerned(List<Result> results, Predicate<Change> which) {
    return results.stream()
        .map(Result::change)
        .filter(change -> change.state().isDone())
        .filter(which)
        .map(Change::person)
        .collect(Collectors.toCollection(HashSet::new));
  }

  /** Once all accounts a person is to have are there; never twice. */
  private void welcome(StatelessSession session, Set<PersonId> who, Instant at) {
    if (who.isEmpty()) {
      return;
    }
    changes.withAccountsComing(session, who).forEach(who::remove);
    if (!who.isEmpty()) {
      who.removeAll(notices.having(session, Notice.Kind.WELCOME, who));
      add(session, who, Notice.Kind.WELCOME, "Your accounts are ready", at);
    }
  }

  private void reset(StatelessSession session, Set<PersonId> who, Instant at) {
    if (who.isEmpty()) {
      return;
    }
    changes.underWay(session, who).stream()
        .filter(change -> change.kind() == ChangeKind.RESET)
        .map(Change::person)
        .toList()
        .forEach(who::remove);
    add(session, who, Notice.Kind.RESET, "Choose a new password", at);
  }

  /**
   * To a private address, as nobody can read at work the mail that lets them in there; or to the
   * manager.
   */
  private void add(
      StatelessSession session, Set<PersonId> who, Notice.Kind kind, String subject, Instant at) {
    if (!who.isEmpty()) {
      var recipients =
          new TreeMap<PersonId, String>(people.held(session, Attributes.HOME_EMAIL, who));
      var others = new HashSet<>(who);
      others.removeAll(recipients.keySet());
      people.all(session, others).stream()
          .map(StoredPerson::person)
          .forEach(one -> recipients.put(one.id(), addresses.above(session, one).orElse(null)));
      notices.addAll(session, recipients, kind, subject, at);
    }
  }
}
