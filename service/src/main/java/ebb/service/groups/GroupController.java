package ebb.service.groups;

import ebb.api.GroupReachView;
import ebb.api.HolderView;
import ebb.api.Listing;
import ebb.api.NamedGroupView;
import ebb.core.application.GroupMark;
import ebb.core.operator.Act;
import ebb.core.person.Attributes;
import ebb.core.rule.Rule;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.GroupMarks;
import ebb.store.applications.Groups;
import ebb.store.applications.Holders;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import ebb.store.rules.Rules;
import java.security.Principal;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/groups")
class GroupController {
  private final Database database;
  private final Holders holders;
  private final Accounts accounts;
  private final People people;
  private final Rules rules;
  private final GroupMarks marks;
  private final Groups groups;

  GroupController(
      Database database,
      Holders holders,
      Accounts accounts,
      People people,
      Rules rules,
      GroupMarks marks,
      Groups groups) {
    this.groups = groups;
    this.marks = marks;
    this.database = database;
    this.holders = holders;
    this.accounts = accounts;
    this.people = people;
    this.rules = rules;
  }

  /** All groups in which anybody is, by name; or those in which nobody is, when asked for. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<NamedGroupView> list(
      @RequestParam(required = false) boolean empty,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit) {
    return database.read(
        session -> {
          var inForce = rules.inForce(session);
          var most = Requests.limit(limit);
          var page =
              empty ? holders.empty(session, cursor, most) : holders.groups(session, cursor, most);
          var said = marks.of(session, page.items().stream().map(Holders.Named::name).toList());
          return Requests.listing(page, group -> view(group, inForce, said.get(group.name())));
        });
  }

  private static NamedGroupView view(Holders.Named group, List<Rule> inForce, GroupMark mark) {
    return new NamedGroupView(
        group.name(),
        group.applications(),
        group.accounts(),
        group.given(),
        inForce.stream()
            .filter(rule -> rule.groups().contains(group.name()))
            .map(Rule::name)
            .toList(),
        mark == null ? null : GroupMarkController.word(mark),
        mark == null ? null : mark.scope(),
        mark == null ? null : mark.most());
  }

  /** How many people and units a group reaches, over all applications. */
  @Allowed(Act.SEE)
  @GetMapping("/reach")
  GroupReachView groupReach(@RequestParam String group) {
    var reached = database.read(session -> holders.reached(session, group));
    return new GroupReachView(
        group, reached.accounts(), reached.inUse(), reached.people(), reached.units());
  }

  /** Who is in a group, in whichever application, and on which ground. */
  @Allowed(Act.SEE)
  @GetMapping("/holders")
  Listing<HolderView> holders(
      @RequestParam String group,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var after = Optional.ofNullable(Requests.cursor(cursor)).orElse(0L);
    var most = Requests.limit(limit);
    return database.read(
        session -> {
          var found = holders.of(session, group, Callers.of(principal).reach(), after, most + 1);
          var shown = found.subList(0, Math.min(most, found.size()));
          var all = accounts.getAll(session, shown);
          var who = people.getAll(session, all.values().stream().map(Account::person).toList());
          return Listing.page(
              shown.stream()
                  .map(all::get)
                  .map(account -> view(session, account, who.get(account.person()), group))
                  .toList(),
              found.size() > most ? shown.getLast().toString() : null);
        });
  }

  private HolderView view(
      StatelessSession session, Account account, StoredPerson person, String group) {
    var direct = account.observed().groups();
    var through =
        direct.contains(group)
            ? null
            : groups.nesting(session, account.application()).around(direct).get(group);
    return new HolderView(
        account.person().value(),
        person.displayName(),
        person.person().get(Attributes.DEPARTMENT).orElse(null),
        account.application(),
        AccountViews.name(account),
        account.level().word(),
        through,
        account.grounds().get(through == null ? group : through));
  }
}
