package ebb.service.departures;

import ebb.api.OffView;
import ebb.core.departure.Departure;
import ebb.core.departure.Departure.Kind;
import ebb.core.departure.Eligibility;
import ebb.core.departure.Eligibility.Candidate;
import ebb.core.operator.Reach;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.core.rule.DesiredAccount;
import ebb.service.connections.Endings;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.store.Page;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.LeftAlone;
import ebb.store.changes.Changes;
import ebb.store.departures.Departures;
import ebb.store.people.Holds;
import ebb.store.people.Suspensions;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Accounts that are off: each is tested for whether its removal may begin, and begins by order as a
 * departure of that account, through the same gates as any other.
 */
@Component
final class Removals {
  private final BusinessClock clock;
  private final Accounts accounts;
  private final Departures departures;
  private final Changes changes;
  private final Holds holds;
  private final Suspensions suspensions;
  private final Evaluator evaluator;
  private final ProcedureBook procedures;
  private final Recipients recipients;
  private final DepartureBook book;
  private final Applications applications;

  Removals(
      BusinessClock clock,
      Accounts accounts,
      Departures departures,
      Changes changes,
      Holds holds,
      Suspensions suspensions,
      Evaluator evaluator,
      ProcedureBook procedures,
      Recipients recipients,
      DepartureBook book,
      Applications applications) {
    this.applications = applications;
    this.clock = clock;
    this.accounts = accounts;
    this.departures = departures;
    this.changes = changes;
    this.holds = holds;
    this.suspensions = suspensions;
    this.evaluator = evaluator;
    this.procedures = procedures;
    this.recipients = recipients;
    this.book = book;
  }

  /**
   * An account, and whether its removal may begin.
   *
   * @param owner null if it is nobody's
   * @param since null if it is not known
   * @param days for how long it has to be off
   * @param against empty if it may
   */
  record Tested(
      Account account,
      Evaluated owner,
      LocalDate since,
      int days,
      Optional<String> against,
      Long underWay) {
    boolean mayBegin() {
      return against.isEmpty();
    }
  }

  Page<Tested> list(
      StatelessSession session, String application, Reach reach, Long after, int limit) {
    var page = accounts.suspended(session, application, reach, after, limit);
    return new Page<>(tested(session, page.items()), page.next());
  }

  /** In the order of their numbers. */
  List<Tested> tested(StatelessSession session, Collection<Account> all) {
    var people = all.stream().map(Account::person).filter(Objects::nonNull).distinct().toList();
    var owners =
        evaluator.evaluate(session, people).stream()
            .collect(Collectors.toMap(one -> one.subject().person().id(), Function.identity()));
    var underWay = departures.underWay(session, all.stream().map(Account::id).toList());
    var since = changes.offSince(session, people);
    var ordered = suspensions.of(session, people);
    return all.stream()
        .sorted(Comparator.comparing(Account::id))
        .map(
            account ->
                account.person() == null || !owners.containsKey(account.person())
                    ? nobodys(account)
                    : tested(
                        session,
                        account,
                        owners.get(account.person()),
                        since,
                        ordered.getOrDefault(account.person(), List.of()),
                        underWay.get(account.id())))
        .toList();
  }

  private static Tested nobodys(Account account) {
    return new Tested(
        account,
        null,
        null,
        0,
        Optional.of("It is nobody's: say whose it is, or leave it as it is."),
        null);
  }

  private Tested tested(
      StatelessSession session,
      Account account,
      Evaluated owner,
      Map<Long, Instant> switchedOff,
      List<Suspension> ordered,
      Long underWay) {
    var person = owner.subject().person();
    var inForce =
        ordered.stream()
            .filter(one -> one.isInForceOn(clock.today()) && one.covers(account.application()))
            .toList();
    var since =
        Optional.ofNullable(switchedOff.get(account.id()))
            .map(at -> LocalDate.ofInstant(at, clock.zone()))
            .or(() -> inForce.stream().map(Suspension::from).min(LocalDate::compareTo))
            .orElse(null);
    var candidate =
        new Candidate(
            account.level(),
            Optional.ofNullable(owner.desired().accounts().get(account.application()))
                .map(DesiredAccount::level),
            since,
            owner.stage(),
            inForce.stream().map(Suspension::reason).collect(Collectors.toSet()),
            holds.inForce(session, person.id(), clock.today()),
            person.isTechnical(),
            underWay,
            Optional.ofNullable(account.leftAlone()).map(LeftAlone::why).orElse(null),
            stays(session, account));
    var days = procedures.of(session, person).waitDays();
    return new Tested(
        account, owner, since, days, Eligibility.against(candidate, days, clock.today()), underWay);
  }

  /** Null if something becomes of it. */
  private String stays(StatelessSession session, Account account) {
    return switch (Endings.of(applications.get(session, account.application()).orElseThrow())) {
      case KEEP -> "nothing is removed in %s".formatted(account.application());
      case STRIP ->
          account.strippedAt() == null
              ? null
              : "on %s it was stripped of what is personal"
                  .formatted(LocalDate.ofInstant(account.strippedAt(), clock.zone()));
      case DELETE -> null;
    };
  }

  /** Begins the removal of an account that was tested in the same transaction. */
  void begin(StatelessSession session, Tested tested, String by, String reason) {
    var person = tested.owner().subject().person();
    var today = clock.today();
    book.begin(
        session,
        Departure.begun(
            departures.number(session),
            person.id(),
            Kind.REMOVAL,
            tested.since(),
            today,
            false,
            recipient(session, person.id(), tested, today),
            Departure.ordered(by, reason),
            clock.instant()),
        List.of(tested.account()),
        tested.since().plusDays(tested.days()),
        clock.instant());
  }

  private PersonId recipient(
      StatelessSession session, PersonId owner, Tested tested, LocalDate today) {
    return recipients
        .of(session, tested.owner().subject().person(), today)
        .filter(recipient -> !recipient.equals(owner))
        .orElse(null);
  }

  OffView view(Tested tested) {
    var account = tested.account();
    var owner = tested.owner() == null ? null : tested.owner().subject().person();
    return new OffView(
        account.id(),
        AccountViews.name(account),
        account.person() == null ? null : account.person().value(),
        owner == null ? null : owner.displayName(),
        owner == null ? null : owner.get(Attributes.DEPARTMENT).orElse(null),
        tested.since(),
        tested.since() == null ? null : ChronoUnit.DAYS.between(tested.since(), clock.today()),
        why(tested),
        account.observed().seats(),
        tested.against().orElse(null),
        tested.underWay());
  }

  private static String why(Tested tested) {
    return tested.owner() == null
        ? null
        : Optional.ofNullable(
                tested.owner().desired().accounts().get(tested.account().application()))
            .map(DesiredAccount::ground)
            .orElse("nothing gives it any more");
  }
}
