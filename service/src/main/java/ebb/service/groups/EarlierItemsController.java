package ebb.service.groups;

import ebb.api.ChangeSetView;
import ebb.api.EarlierItemsView;
import ebb.api.EarlierItemsView.StrayView;
import ebb.api.EarlierItemsView.StraysView;
import ebb.core.application.Application;
import ebb.core.application.EarlierItems;
import ebb.core.application.EarlierItems.Stray;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.ChangeViews;
import ebb.service.changes.Proposals;
import ebb.service.connections.Connections;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Problems;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Groups;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What was made earlier for a group and does not follow it; and how it is made to. */
@RestController
@RequestMapping("/api/v1/groups/earlier-items")
class EarlierItemsController {
  private static final int SHOWN = 200;

  /** In one set; who is beyond it is in the next. */
  private static final int AT_ONCE = 5_000;

  private final Database database;
  private final Connections connections;
  private final Applications applications;
  private final Groups groups;
  private final Accounts accounts;
  private final People people;
  private final Proposals proposals;
  private final ChangeViews sets;

  EarlierItemsController(
      Database database,
      Connections connections,
      Applications applications,
      Groups groups,
      Accounts accounts,
      People people,
      Proposals proposals,
      ChangeViews sets) {
    this.database = database;
    this.connections = connections;
    this.applications = applications;
    this.groups = groups;
    this.accounts = accounts;
    this.people = people;
    this.proposals = proposals;
    this.sets = sets;
  }

  /** Asked of each application that has the group; nothing is kept. */
  @Allowed(Act.SEE)
  @GetMapping
  EarlierItemsView earlierItems(@RequestParam String group, Principal principal) {
    var reach = Callers.of(principal).reach();
    return new EarlierItemsView(
        group, asked(group).map(application -> strays(application, group, reach)).toList());
  }

  /**
   * Proposes that what does not follow is put right, for everybody whom it concerns; where an
   * application does not answer, in the others.
   */
  @Allowed(Act.RELEASE)
  @PostMapping("/catch-up")
  ChangeSetView catchUp(@RequestParam String group, Principal principal) {
    var reach = Callers.of(principal).reach();
    var drafts = new ArrayList<Draft>();
    var silent = new ArrayList<Problem>();
    for (var application : asked(group).toList()) {
      try {
        drafts.addAll(drafts(application, group, reach));
      } catch (Unreachable e) {
        silent.add(e.problem());
      }
    }
    if (drafts.isEmpty()) {
      throw silent.isEmpty()
          ? Refusal.conflict(nothingAstray(group))
          : new Refusal(Refusal.Kind.UNAVAILABLE, silent);
    }
    var title = "earlier items of %s follow".formatted(group);
    var set = proposals.steps(Cause.ORDER, title, principal.getName(), drafts);
    return database.read(session -> sets.view(session, set));
  }

  private List<Draft> drafts(String application, String group, Reach reach) throws Unreachable {
    var whose = whose(application, items(application).strays(group, Optional.empty(), AT_ONCE));
    return whose.accounts().values().stream()
        .filter(account -> account.person() != null && whose.isWithin(account, reach))
        .sorted(Comparator.comparingLong(Account::id))
        .map(account -> draft(account, group))
        .toList();
  }

  private static Draft draft(Account account, String group) {
    return new Draft(
        account.person(),
        account.application(),
        account.id(),
        Step.group(ChangeKind.CATCH_UP, group, "order"));
  }

  private static Problem nothingAstray(String group) {
    return new Problem(
        "nothing-astray",
        "Nothing that was made for %s earlier differs from who is in it.".formatted(group),
        "Every item follows, or no application that has the group can say which were made for it.",
        "Nothing need be done.",
        null);
  }

  private Stream<String> asked(String group) {
    return database
        .read(
            session ->
                applications.list(session).stream()
                    .map(Application::name)
                    .filter(name -> !groups.lacks(session, name, group))
                    .toList())
        .stream()
        .filter(name -> connections.capabilities(name).has(Part.EARLIER_ITEMS));
  }

  private EarlierItems items(String application) {
    return connections
        .to(application)
        .earlierItems()
        .orElseThrow(() -> new IllegalStateException(application + " has such a part"));
  }

  private StraysView strays(String application, String group, Reach reach) {
    try {
      var found = items(application).strays(group, Optional.empty(), SHOWN + 1);
      var shown = found.subList(0, Math.min(SHOWN, found.size()));
      var whose = whose(application, shown);
      return new StraysView(
          application,
          null,
          shown.stream()
              .filter(stray -> whose.isWithin(whose.accounts().get(stray.accountId()), reach))
              .map(whose::view)
              .toList(),
          found.size() > SHOWN);
    } catch (Unreachable e) {
      return new StraysView(application, Problems.view(e.problem()), List.of(), false);
    }
  }

  /**
   * @param accounts by the application's own ids; an account that was never read is missing
   */
  private record Whose(Map<String, Account> accounts, Map<PersonId, StoredPerson> people) {
    /** What is nobody's, only whoever answers for everybody sees. */
    boolean isWithin(Account account, Reach reach) {
      var person = person(account);
      return person.map(one -> reach.covers(one.person())).orElse(reach.isEverybody());
    }

    private Optional<StoredPerson> person(Account account) {
      return Optional.ofNullable(account).map(Account::person).map(people::get);
    }

    StrayView view(Stray stray) {
      var account = accounts.get(stray.accountId());
      var person = person(account);
      return new StrayView(
          stray.item().kind(),
          stray.item().name(),
          person.map(one -> one.person().id().value()).orElse(null),
          person.map(StoredPerson::displayName).orElse(null),
          account == null ? stray.accountId() : AccountViews.name(account),
          stray.isNamed());
    }
  }

  private Whose whose(String application, List<Stray> strays) {
    return database.read(
        session -> {
          var ids = strays.stream().map(Stray::accountId).collect(Collectors.toSet());
          var known = accounts.byRemoteIds(session, application, ids);
          var who = known.values().stream().map(Account::person).filter(Objects::nonNull).toList();
          return new Whose(known, people.getAll(session, who));
        });
  }
}
