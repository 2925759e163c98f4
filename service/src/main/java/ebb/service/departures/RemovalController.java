package ebb.service.departures;

import ebb.api.Listing;
import ebb.api.OffView;
import ebb.api.RemovalRequest;
import ebb.api.RemovalView;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.departures.Removals.Tested;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.people.People;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Accounts of an application that are off, and their removal by order. */
@RestController
@RequestMapping("/api/v1/applications/{name}")
class RemovalController {
  /** What is ordered at once is looked at by somebody: more is many orders. */
  private static final int MOST = 1_000;

  private static final int AT_ONCE = 200;

  private final Database database;
  private final Applications applications;
  private final Accounts accounts;
  private final People people;
  private final Removals removals;
  private final Reaches reaches;

  RemovalController(
      Database database,
      Applications applications,
      Accounts accounts,
      People people,
      Removals removals,
      Reaches reaches) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.people = people;
    this.removals = removals;
    this.reaches = reaches;
  }

  /** Suspended accounts in the order of their numbers, each with what is against its removal. */
  @Allowed(Act.SEE)
  @GetMapping("/off")
  Listing<OffView> off(
      @PathVariable String name,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    requireApplication(name);
    return database.read(
        session ->
            Requests.listing(
                removals.list(
                    session,
                    name,
                    Callers.of(principal).reach(),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                removals::view));
  }

  /**
   * Begins the removal of those that may go; the rest is refused, each with its reason. Every one
   * is a departure of its own, whose gates stay shut until what it owns is handed over and nothing
   * refers to it.
   */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/removals")
  RemovalView remove(
      @PathVariable String name, @RequestBody RemovalRequest request, Principal principal) {
    requireApplication(name);
    var reason = Requests.required(request.reason(), "reason");
    if (request.first() != null && request.first() < 1) {
      throw Refusal.invalid(
          new Problem(
              "first-part",
              "The first %d cannot be removed.".formatted(request.first()),
              "A part is at least one account.",
              "Name how many, or leave it out for all.",
              Where.field("first")));
    }
    var order = new Order(principal, reason, Objects.requireNonNullElse(request.first(), MOST));
    if (request.accounts() == null || request.accounts().isEmpty()) {
      order.takeAll(name);
    } else {
      order.take(chosen(name, request.accounts(), principal));
    }
    return order.result();
  }

  /** Part after part, each a transaction of its own. */
  private final class Order {
    private final Principal principal;
    private final String reason;
    private final int most;
    private final List<OffView> begun = new ArrayList<>();
    private final List<OffView> refused = new ArrayList<>();
    private long left;

    Order(Principal principal, String reason, int most) {
      this.principal = principal;
      this.reason = reason;
      this.most = Math.min(most, MOST);
    }

    void take(List<Long> chosen) {
      for (int from = 0; from < chosen.size(); from += AT_ONCE) {
        var part = chosen.subList(from, Math.min(from + AT_ONCE, chosen.size()));
        var tested = database.write(session -> begin(session, part));
        keep(tested);
        tested.stream().filter(one -> !one.mayBegin()).map(removals::view).forEach(refused::add);
      }
    }

    /** Nobody chose those that may not go: they are in the list, and no news. */
    void takeAll(String application) {
      var reach = Callers.of(principal).reach();
      var next = "0";
      while (next != null) {
        var after = Long.valueOf(next);
        var page =
            database.read(
                session -> accounts.suspended(session, application, reach, after, AT_ONCE));
        var part = page.items().stream().map(Account::id).toList();
        keep(database.write(session -> begin(session, part)));
        next = page.next();
      }
    }

    /** With their owners held, so that no hold and no release comes between test and beginning. */
    private List<Tested> begin(StatelessSession session, List<Long> ids) {
      var owners = people(List.copyOf(accounts.getAll(session, ids).values()));
      if (!owners.isEmpty()) {
        people.lock(session, owners);
      }
      var tested = removals.tested(session, accounts.getAll(session, ids).values());
      tested.stream()
          .filter(Tested::mayBegin)
          .limit(most - begun.size())
          .forEach(one -> removals.begin(session, one, principal.getName(), reason));
      return tested;
    }

    /** The first of those that may go began. */
    private void keep(List<Tested> tested) {
      var may = tested.stream().filter(Tested::mayBegin).map(removals::view).toList();
      var taken = Math.min(may.size(), most - begun.size());
      begun.addAll(may.subList(0, taken));
      left += may.size() - taken;
    }

    RemovalView result() {
      return new RemovalView(List.copyOf(begun), List.copyOf(refused), left);
    }
  }

  private static List<PersonId> people(List<Account> all) {
    return all.stream().map(Account::person).filter(Objects::nonNull).distinct().sorted().toList();
  }

  /** Each once, and of this application. */
  private List<Long> chosen(String application, List<Long> ids, Principal principal) {
    var chosen = ids.stream().filter(Objects::nonNull).distinct().toList();
    if (chosen.size() > MOST) {
      throw Refusal.invalid(
          new Problem(
              "too-many-accounts",
              "%,d accounts were chosen.".formatted(chosen.size()),
              "At most %,d are removed by one order.".formatted(MOST),
              "Order a part of them, look at it, then the rest.",
              Where.field("accounts")));
    }
    var found = database.read(session -> accounts.getAll(session, chosen));
    for (var id : chosen) {
      if (!found.containsKey(id) || !found.get(id).application().equals(application)) {
        throw Refusal.notFound(
            "account of " + application, id, "See: ebb dormant off " + application);
      }
    }
    reaches.requireAll(principal, people(List.copyOf(found.values())));
    return chosen;
  }

  private void requireApplication(String name) {
    if (database.read(session -> applications.get(session, name)).isEmpty()) {
      throw Refusal.notFound("application", name, "See: ebb applications list");
    }
  }
}
