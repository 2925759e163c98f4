package ebb.service.sync;

import ebb.api.AppGroupView;
import ebb.api.GroupRequest;
import ebb.api.Listing;
import ebb.api.SettledView;
import ebb.api.SyncRunView;
import ebb.api.SyncView;
import ebb.core.application.Application;
import ebb.core.application.Level;
import ebb.core.operator.Act;
import ebb.core.problem.Refusal;
import ebb.core.rule.Rule;
import ebb.service.reach.Reaches;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Groups;
import ebb.store.applications.SyncRun;
import ebb.store.applications.SyncRun.Counts;
import ebb.store.applications.SyncRuns;
import ebb.store.rules.Rules;
import java.security.Principal;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/applications/{name}")
class SyncController {
  private static final int STRANGERS_SHOWN = 100;

  private final Database database;
  private final Applications applications;
  private final Rules rules;
  private final Accounts accounts;
  private final Groups groups;
  private final SyncRuns runs;
  private final Syncs syncs;
  private final Memberships memberships;
  private final Reaches reaches;

  SyncController(
      Database database,
      Applications applications,
      Rules rules,
      Accounts accounts,
      Groups groups,
      SyncRuns runs,
      Syncs syncs,
      Memberships memberships,
      Reaches reaches) {
    this.database = database;
    this.applications = applications;
    this.rules = rules;
    this.accounts = accounts;
    this.groups = groups;
    this.runs = runs;
    this.syncs = syncs;
    this.memberships = memberships;
    this.reaches = reaches;
  }

  /**
   * Reads accounts, and proposes to put right what drifted. Writes nothing there, unless its policy
   * is to correct.
   *
   * @param everything whether to read all, though the application could say what changed
   */
  @Allowed(Act.IMPORT)
  @PostMapping("/sync")
  SyncView sync(
      @PathVariable String name,
      @RequestParam(defaultValue = "false") boolean everything,
      Principal principal) {
    var application = database.read(session -> get(session, name));
    var run = syncs.sync(application, everything, principal.getName());
    var counts = run.counts();
    return new SyncView(
        name,
        run.id(),
        run.whole(),
        counts.read(),
        counts.changed(),
        counts.found(),
        run.whole() ? inStep(counts) : null,
        counts.drifted(),
        counts.missing(),
        counts.unmatched(),
        run.changeSet());
  }

  /** Of a reading of everything: all that is there was read. */
  private static long inStep(Counts counts) {
    return Math.max(0, counts.read() - counts.unmatched() - counts.drifted());
  }

  /** Readings, newest first; one that goes on shows how far it is. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/syncs")
  Listing<SyncRunView> syncs(
      @PathVariable String name,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session -> {
          get(session, name);
          return Requests.listing(
              runs.list(session, name, Requests.cursor(cursor), Requests.limit(limit)),
              SyncController::view);
        });
  }

  /** Groups by name, as they were last seen. */
  @Allowed(Act.SEE)
  @GetMapping("/groups")
  Listing<AppGroupView> groups(
      @PathVariable String name,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session -> {
          get(session, name);
          var inForce = rules.inForce(session);
          return Requests.listing(
              groups.list(session, name, cursor, Requests.limit(limit)),
              one -> view(session, name, one, inForce));
        });
  }

  /**
   * Shows what follows if all who are in a group are given it: they stay in it, and whoever is
   * taken out of it there is put back.
   */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/groups/keep-members")
  SettledView keepMembers(
      @PathVariable String name, @RequestBody GroupRequest request, Principal principal) {
    var group = Requests.required(request.group(), "group");
    var application = database.read(session -> get(session, name));
    var kept =
        memberships.keep(
            application,
            group,
            principal.getName(),
            people -> reaches.requireAll(principal, people));
    return new SettledView(
        kept.set().map(set -> set.id()).orElse(null), kept.members(), kept.ofNobody(), List.of());
  }

  /** Says that a group means nothing here, with a reason; without one, that it does after all. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/groups/leave-alone")
  void leaveGroupAlone(
      @PathVariable String name, @RequestBody GroupRequest request, Principal principal) {
    var group = Requests.required(request.group(), "group");
    memberships.leaveAlone(
        database.read(session -> get(session, name)), group, request.reason(), principal.getName());
  }

  private AppGroupView view(
      StatelessSession session, String name, Groups.Counted one, List<Rule> all) {
    var group = one.group();
    var rules =
        all.stream()
            .filter(rule -> rule.application().equals(name))
            .filter(rule -> rule.groups().contains(group.name()))
            .map(Rule::name)
            .toList();
    var owners = accounts.byRemoteIds(session, name, group.owners());
    return new AppGroupView(
        group.name(),
        one.members(),
        one.given(),
        rules,
        AccountViews.leftAlone(one.leftAlone()),
        group.owners().stream().map(id -> owner(owners.get(id), id)).toList(),
        List.copyOf(group.inner()),
        group.strangers().stream().limit(STRANGERS_SHOWN).toList());
  }

  private static String owner(Account account, String id) {
    return account == null || account.level() == Level.GONE ? id : AccountViews.name(account);
  }

  private static SyncRunView view(SyncRun run) {
    var counts = run.counts();
    return new SyncRunView(
        run.id(),
        run.application(),
        run.by(),
        run.begunAt(),
        run.endedAt(),
        run.whole(),
        counts.read(),
        counts.changed(),
        counts.found(),
        counts.missing(),
        counts.drifted(),
        counts.unmatched(),
        run.changeSet(),
        Problems.view(run.problem()));
  }

  private Application get(StatelessSession session, String name) {
    return applications
        .get(session, name)
        .orElseThrow(() -> Refusal.notFound("application", name, "See: ebb applications list"));
  }
}
