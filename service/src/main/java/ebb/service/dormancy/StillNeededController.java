package ebb.service.dormancy;

import ebb.api.StillNeededRequest;
import ebb.api.StillNeededView;
import ebb.api.StillNeededView.NotAskedView;
import ebb.core.application.Level;
import ebb.core.dormancy.StillNeeded;
import ebb.core.notice.Notice;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.notices.Addresses;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.StillNeededs;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Asks owners or managers whether accounts are still needed. */
@RestController
@RequestMapping("/api/v1/applications/{name}/dormant/asks")
class StillNeededController {
  /** A letter each: whoever asks more asks part by part. */
  private static final int MOST = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final Applications applications;
  private final Accounts accounts;
  private final StillNeededs asked;
  private final People people;
  private final Addresses addresses;
  private final Notices notices;
  private final Journal journal;
  private final Reaches reaches;

  StillNeededController(
      Database database,
      BusinessClock clock,
      Applications applications,
      Accounts accounts,
      StillNeededs asked,
      People people,
      Addresses addresses,
      Notices notices,
      Journal journal,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.applications = applications;
    this.accounts = accounts;
    this.asked = asked;
    this.people = people;
    this.addresses = addresses;
    this.notices = notices;
    this.journal = journal;
    this.reaches = reaches;
  }

  /** Asks once for each person; whoever does not answer by the day loses the use of the account. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping
  StillNeededView askWhetherStillNeeded(
      @PathVariable String name, @RequestBody StillNeededRequest request, Principal principal) {
    if (database.read(session -> applications.get(session, name)).isEmpty()) {
      throw Refusal.notFound("application", name, "See: ebb applications list");
    }
    refuseAmiss(request);
    var chosen = chosen(name, request.accounts());
    reaches.requireAll(
        principal, chosen.stream().map(Account::person).filter(Objects::nonNull).toList());
    return database.write(session -> ask(session, chosen, request, principal.getName()));
  }

  private StillNeededView ask(
      StatelessSession session, List<Account> chosen, StillNeededRequest request, String by) {
    var owners =
        people.getAll(
            session,
            chosen.stream()
                .map(Account::person)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet()));
    var notAsked = new ArrayList<NotAskedView>();
    var told = new HashSet<PersonId>();
    var count = 0;
    for (var account : chosen) {
      var owner = account.person() == null ? null : owners.get(account.person());
      var why = whyNot(account, owner);
      var address = why == null ? address(session, owner, request) : Optional.<String>empty();
      if (why != null || address.isEmpty()) {
        notAsked.add(
            new NotAskedView(
                account.id(),
                AccountViews.name(account),
                why == null ? "neither its owner nor a manager can be reached by mail" : why));
      } else {
        ask(session, account, owner, address.get(), request.until(), by, told);
        count++;
      }
    }
    return new StillNeededView(count, notAsked);
  }

  private static String whyNot(Account account, StoredPerson owner) {
    return account.level() == Level.ACTIVE
        ? Exempt.why(account, owner)
        : "it is %s, not in use".formatted(account.level().word());
  }

  /** The manager's where the owner cannot be reached, and the owner's where there is no manager. */
  private Optional<String> address(
      StatelessSession session, StoredPerson owner, StillNeededRequest request) {
    var own = addresses.atWork(session, owner.person().id());
    var manager = addresses.above(session, owner.person());
    return request.ofManager() ? manager.or(() -> own) : own.or(() -> manager);
  }

  /** One letter for all of somebody's accounts: the page behind its link shows them all. */
  private void ask(
      StatelessSession session,
      Account account,
      StoredPerson owner,
      String address,
      LocalDate until,
      String by,
      Collection<PersonId> told) {
    var person = owner.person().id();
    var now = clock.instant();
    asked.put(
        session,
        StillNeeded.asked(account.id(), person, account.application(), address, by, now, until));
    if (told.add(person)) {
      notices.add(
          session,
          person,
          Notice.Kind.STILL_NEEDED,
          address,
          "Is the account in %s still needed? Please answer by %s"
              .formatted(account.application(), until),
          null,
          now);
    }
    journal.write(
        session,
        now,
        Deed.of(
            by,
            "asked whether the account in %s is still needed, until %s"
                .formatted(account.application(), until),
            person));
  }

  private void refuseAmiss(StillNeededRequest request) {
    var until = request.until();
    var last = clock.today().plusDays(StillNeededAsks.LONGEST);
    if (until == null || !until.isAfter(clock.today()) || until.isAfter(last)) {
      throw Refusal.invalid(
          new Problem(
              "answer-day",
              until == null
                  ? "No day is named by which they answer."
                  : "%s is no day by which they can answer.".formatted(until),
              "What is not answered is suspended on the day after.",
              "Name a day after today, up to %s.".formatted(last),
              Where.field("until")));
    }
  }

  /** Each once, in the order of their numbers. */
  private List<Account> chosen(String application, List<Long> ids) {
    var wanted =
        Objects.requireNonNullElse(ids, List.<Long>of()).stream()
            .filter(Objects::nonNull)
            .distinct()
            .sorted()
            .toList();
    if (wanted.isEmpty() || wanted.size() > MOST) {
      throw Refusal.invalid(
          new Problem(
              "accounts-chosen",
              wanted.isEmpty()
                  ? "No account was chosen."
                  : "%,d accounts were chosen.".formatted(wanted.size()),
              "A letter goes out for each owner.",
              "Choose between one and %,d.".formatted(MOST),
              Where.field("accounts")));
    }
    var found = database.read(session -> accounts.getAll(session, wanted));
    return wanted.stream()
        .map(
            id ->
                Optional.ofNullable(found.get(id))
                    .filter(account -> account.application().equals(application))
                    .orElseThrow(
                        () ->
                            Refusal.notFound(
                                "account of " + application,
                                id,
                                "See: ebb dormant list " + application)))
        .toList();
  }
}
