package ebb.service.dormancy;

import ebb.api.DormantView;
import ebb.api.Listing;
import ebb.api.SignInView;
import ebb.core.application.Activity.Use;
import ebb.core.application.Application;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.dormancy.StillNeeded;
import ebb.core.operator.Act;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.connections.Connections;
import ebb.service.connections.SettingsCheck;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.AccountUses;
import ebb.store.applications.AccountUses.Idle;
import ebb.store.applications.AccountUses.Mark;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.StillNeededs;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Accounts that nobody has signed in to for long, and when a person last did. */
@RestController
@RequestMapping("/api/v1")
class DormantController {
  private static final int USUAL_DAYS = 90;

  private final Database database;
  private final BusinessClock clock;
  private final Connections connections;
  private final Applications applications;
  private final Accounts accounts;
  private final AccountUses uses;
  private final People people;
  private final UseWatch watch;
  private final StillNeededs asked;
  private final Reaches reaches;

  DormantController(
      Database database,
      BusinessClock clock,
      Connections connections,
      Applications applications,
      Accounts accounts,
      AccountUses uses,
      People people,
      UseWatch watch,
      StillNeededs asked,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.connections = connections;
    this.applications = applications;
    this.accounts = accounts;
    this.uses = uses;
    this.people = people;
    this.watch = watch;
    this.asked = asked;
    this.reaches = reaches;
  }

  /**
   * Accounts in use into which their owners have not signed in, the longest first.
   *
   * @param days for how many; left out for what is set for the application
   */
  @Allowed(Act.SEE)
  @GetMapping("/applications/{name}/dormant")
  Listing<DormantView> dormant(
      @PathVariable String name,
      @RequestParam(required = false) Integer days,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var application = application(name);
    var since = clock.instant().minus(Duration.ofDays(days(application, days)));
    var reach = Callers.of(principal).reach();
    return database.read(
        session -> {
          var page = uses.idle(session, name, since, reach, mark(cursor), Requests.limit(limit));
          var found = accounts.getAll(session, page.items().stream().map(Idle::account).toList());
          var known =
              people.getAll(
                  session,
                  found.values().stream()
                      .map(Account::person)
                      .filter(Objects::nonNull)
                      .collect(Collectors.toSet()));
          var said = asked.of(session, found.keySet());
          return new Listing<>(
              page.items().stream()
                  .map(
                      idle ->
                          view(
                              idle,
                              found.get(idle.account()),
                              known,
                              words(said.get(idle.account()), application)))
                  .toList(),
              page.next(),
              uses.countIdle(session, name, since, reach),
              null);
        });
  }

  private DormantView view(
      Idle idle, Account account, Map<PersonId, StoredPerson> known, String stillNeeded) {
    var person = account.person() == null ? null : known.get(account.person());
    return new DormantView(
        account.id(),
        AccountViews.name(account),
        account.person() == null ? null : account.person().value(),
        person == null ? null : person.displayName(),
        person == null ? null : person.person().get(Attributes.DEPARTMENT).orElse(null),
        idle.signedInAt(),
        idle.usedAt(),
        Duration.between(idle.since(), clock.instant()).toDays(),
        account.observed().seats(),
        Exempt.why(account, person),
        stillNeeded,
        idle.askedAt());
  }

  /** Null if nobody was asked. */
  private String words(StillNeeded one, Application application) {
    if (one == null) {
      return null;
    }
    return switch (one.answer()) {
      case OPEN ->
          "asked on %s; an answer is due by %s"
              .formatted(LocalDate.ofInstant(one.askedAt(), clock.zone()), one.until());
      case NEEDED ->
          isNeeded(one, application)
              ? "still needed, said %s on %s".formatted(one.askedOf(), day(one))
              : null;
      case NOT_NEEDED, GIVEN_UP -> "not needed any more, said %s".formatted(one.askedOf());
      case SILENT -> "%s did not answer by %s".formatted(one.askedOf(), one.until());
      case SETTLED -> null;
    };
  }

  private boolean isNeeded(StillNeeded one, Application application) {
    return one.isNeeded(clock.instant(), Duration.ofDays(days(application, null)));
  }

  private LocalDate day(StillNeeded one) {
    return LocalDate.ofInstant(one.answeredAt(), clock.zone());
  }

  /** Has the application asked anew who uses it. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/applications/{name}/dormant/look")
  void askWhoUsesIt(@PathVariable String name) {
    var application = application(name);
    if (!connections.capabilities(name).has(Part.ACTIVITY)) {
      throw Refusal.conflict(
          new Problem(
              "activity-unknown",
              "%s cannot say when an account was last used.".formatted(name),
              "It has no part for that.",
              "Join its companion interface, if it has one.",
              null));
    }
    if (!application.settings().containsKey(SettingsCheck.DORMANT_AFTER)) {
      throw Refusal.conflict(
          new Problem(
              "dormant-after-missing",
              "It is not said after how many days an account of %s is dormant.".formatted(name),
              "It is asked only where that is said, as it takes a call for each account.",
              "Connect it again with --set=dormantAfter=90.",
              null));
    }
    watch.again(name);
  }

  /** When somebody last signed in to each application, asked of them at that moment. */
  @Allowed(Act.SEE)
  @GetMapping("/people/{id}/sign-ins")
  Listing<SignInView> signIns(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = new PersonId(id);
    var theirs =
        database
            .read(session -> accounts.of(session, List.of(person)))
            .getOrDefault(person, List.of());
    return Listing.whole(
        theirs.stream().filter(account -> account.level().exists()).map(this::signIn).toList());
  }

  private SignInView signIn(Account account) {
    var activity = connections.to(account.application()).activity();
    try {
      var use =
          activity.isEmpty() ? Optional.<Use>empty() : activity.get().of(account.observed().id());
      return new SignInView(
          account.application(),
          AccountViews.name(account),
          use.map(one -> one.signedInAt()).orElse(null),
          use.map(one -> one.usedAt()).orElse(null),
          use.isPresent());
    } catch (Unreachable _) {
      // Not known: shown as such, and asked again when somebody looks again.
      return new SignInView(account.application(), AccountViews.name(account), null, null, false);
    }
  }

  private Application application(String name) {
    return database
        .read(session -> applications.get(session, name))
        .orElseThrow(() -> Refusal.notFound("application", name, "See: ebb applications list"));
  }

  private static int days(Application application, Integer asked) {
    if (asked != null && (asked < 1 || asked > 10_000)) {
      throw Refusal.invalid(
          new Problem(
              "dormant-days",
              "%d days cannot be asked for.".formatted(asked),
              "It is between one day and 10,000.",
              "Ask for another number of days.",
              Where.field("days")));
    }
    return asked != null
        ? asked
        : Integer.parseInt(
            application
                .settings()
                .getOrDefault(SettingsCheck.DORMANT_AFTER, Integer.toString(USUAL_DAYS)));
  }

  private static Mark mark(String cursor) {
    var place = Requests.place(cursor);
    return place == null ? null : new Mark(place.at(), place.id());
  }
}
