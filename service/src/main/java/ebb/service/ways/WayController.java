package ebb.service.ways;

import ebb.api.ChangeSetView;
import ebb.api.Listing;
import ebb.api.OffAccountView;
import ebb.api.WayRequest;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.ChangeViews;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.connections.Connections;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What is still open to a person's suspended accounts. */
@RestController
@RequestMapping("/api/v1/people/{id}/ways-in")
class WayController {
  private final Database database;
  private final BusinessClock clock;
  private final WayViews views;
  private final WayWatch watch;
  private final WaysFound found;
  private final Accounts accounts;
  private final Connections connections;
  private final Proposals proposals;
  private final Releases releases;
  private final ChangeViews sets;
  private final Journal journal;
  private final Reaches reaches;

  WayController(
      Database database,
      BusinessClock clock,
      WayViews views,
      WayWatch watch,
      WaysFound found,
      Accounts accounts,
      Connections connections,
      Proposals proposals,
      Releases releases,
      ChangeViews sets,
      Journal journal,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.views = views;
    this.watch = watch;
    this.found = found;
    this.accounts = accounts;
    this.connections = connections;
    this.proposals = proposals;
    this.releases = releases;
    this.sets = sets;
    this.journal = journal;
    this.reaches = reaches;
  }

  /** The suspended accounts of a person, each with what was open when its application was asked. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<OffAccountView> waysIn(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = new PersonId(id);
    return Listing.whole(database.read(session -> views.of(session, Set.of(person)).get(person)));
  }

  /** Has the applications asked again. */
  @Allowed(Act.SEE)
  @PostMapping("/look")
  Listing<OffAccountView> look(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = new PersonId(id);
    database.writeAll(
        session ->
            found.lookSoon(
                session,
                watch.toBeAskedOf(
                    session,
                    accounts.of(session, List.of(person)).getOrDefault(person, List.of()).stream()
                        .filter(account -> account.level().exists() && !account.observed().usable())
                        .toList()),
                Instant.now()));
    return waysIn(id, principal);
  }

  private boolean canBeAsked(Account account) {
    return WayWatch.saysWaysIn(connections.capabilities(account.application()));
  }

  /** Shuts a way in, or all of an account's and its sessions. Begins at once. */
  @Allowed(Act.RESET)
  @PostMapping("/shut")
  ChangeSetView shut(@PathVariable long id, @RequestBody WayRequest request, Principal principal) {
    reaches.require(principal, id);
    var account = account(id, request.account());
    var way = Requests.blankAsNull(request.way());
    if (way != null && WaysFound.accountOf(way).isPresent()) {
      throw OtherAccounts.notToBeShut();
    }
    if (!canBeAsked(account)) {
      throw Refusal.conflict(
          new Problem(
              "ways-in-unknown",
              "%s cannot say which ways in are open.".formatted(account.application()),
              "It has no part for them.",
              "Look there by hand, and say what you found in a note.",
              null));
    }
    var set = shut(account, way, principal.getName());
    return database.read(session -> sets.view(session, set));
  }

  private ChangeSet shut(Account account, String way, String by) {
    var step =
        way == null ? Step.of(ChangeKind.SHUT, "order") : Step.group(ChangeKind.SHUT, way, "order");
    var set =
        proposals.steps(
            Cause.ORDER,
            "ways in to %s shut".formatted(account.application()),
            by,
            List.of(new Draft(account.person(), account.application(), account.id(), step)));
    return releases.release(set.id(), null, by, null);
  }

  /** Says by name and reason that a way in may stay open. */
  @Allowed(Act.DEPARTURES)
  @PostMapping("/waivers")
  Listing<OffAccountView> waiveWay(
      @PathVariable long id, @RequestBody WayRequest request, Principal principal) {
    reaches.require(principal, id);
    var way = Requests.required(request.way(), "way");
    var reason = Requests.required(request.reason(), "reason");
    var account = account(id, request.account());
    if (account.person().equals(Callers.of(principal).person())) {
      throw new Refusal(
          Refusal.Kind.FORBIDDEN,
          new Problem(
              "own-case",
              "This is an account of %s's own.".formatted(principal.getName()),
              "Nobody says of their own account that a way in may stay open.",
              "Ask another operator.",
              null));
    }
    database.writeAll(
        session -> {
          if (!found.waive(
              session, account.id(), way, principal.getName(), reason, clock.instant())) {
            throw Refusal.notFound("open way in", way, "See: ebb suspensions ways " + id);
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                      principal.getName(),
                      "waived a way in to %s".formatted(account.application()),
                      account.person())
                  .because(reason));
        });
    return waysIn(id, principal);
  }

  private Account account(long person, long account) {
    return database
        .read(session -> accounts.get(session, account))
        .filter(one -> new PersonId(person).equals(one.person()))
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "account of this person", account, "See: ebb suspensions ways " + person));
  }
}
