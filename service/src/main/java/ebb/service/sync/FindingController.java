package ebb.service.sync;

import ebb.api.CandidateView;
import ebb.api.DifferenceView;
import ebb.api.FindingCountView;
import ebb.api.FindingView;
import ebb.api.FindingsView;
import ebb.api.LeftOutView;
import ebb.api.Listing;
import ebb.api.QuarrelView;
import ebb.api.SettleRequest;
import ebb.api.SettledView;
import ebb.core.application.Application;
import ebb.core.change.Finding;
import ebb.core.change.Needs.Draft;
import ebb.core.compare.Edit;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.reach.Reaches;
import ebb.service.sync.FindingDesk.Chosen;
import ebb.service.sync.FindingDesk.Settled;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.applications.Drifts;
import ebb.store.applications.Likely;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** In what an application and Ebb do not agree, by kind, and what is done about it. */
@RestController
@RequestMapping("/api/v1/applications/{name}/findings")
class FindingController {
  private static final int MOST_QUARRELS = 100;

  /** Who came back so often, somebody keeps writing. */
  private static final int IS_QUARREL = 3;

  private final Database database;
  private final Applications applications;
  private final Accounts accounts;
  private final Drifts drifts;
  private final People people;
  private final Proposals proposals;
  private final FindingDesk desk;
  private final Reaches reaches;

  FindingController(
      Database database,
      Applications applications,
      Accounts accounts,
      Drifts drifts,
      People people,
      Proposals proposals,
      FindingDesk desk,
      Reaches reaches) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.drifts = drifts;
    this.people = people;
    this.proposals = proposals;
    this.desk = desk;
    this.reaches = reaches;
  }

  /** How often each kind is found, the most urgent first, and what others keep writing. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  FindingsView findings(@PathVariable String name) {
    return database.read(
        session -> {
          var application = get(session, name);
          var drifted = drifts.counts(session, name);
          var kinds =
              Stream.of(Finding.values())
                  .map(
                      kind ->
                          new FindingCountView(
                              kind.word(),
                              words(kind),
                              kind.isDrift()
                                  ? drifted.getOrDefault(kind, 0L)
                                  : accounts.count(session, name, kind, Integer.MAX_VALUE - 1)))
                  .filter(one -> one.count() > 0)
                  .toList();
          return new FindingsView(name, application.syncedAt(), kinds, quarrels(session, name));
        });
  }

  private List<QuarrelView> quarrels(StatelessSession session, String name) {
    var all = drifts.quarrels(session, name, IS_QUARREL, MOST_QUARRELS);
    var names = names(session, all.stream().map(Drifts.Quarrel::person).toList());
    return all.stream()
        .map(
            one ->
                new QuarrelView(
                    one.person().value(),
                    names.get(one.person()),
                    one.attribute(),
                    one.since(),
                    one.times()))
        .toList();
  }

  private static String words(Finding kind) {
    return switch (kind) {
      case ON_THERE -> "off here, and on there";
      case OFF_THERE -> "on here, and off there";
      case MISSING -> "should be there, and are not";
      case DRIFTED -> "differ from what they should be";
      case DUPLICATE -> "of nobody, like somebody who has one there already";
      case DOUBTFUL -> "of nobody for certain, like somebody who has none there";
      case UNMATCHED -> "of nobody who is known";
      case UNLOOKED -> "of nobody, and being looked at";
      case LEFT_ALONE -> "left as they are, with a reason";
    };
  }

  /** Findings of one kind. */
  @Allowed(Act.SEE)
  @GetMapping("/{kind}")
  Listing<FindingView> list(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var finding = Requests.word(Finding.class, kind, "kind");
    var reach = Callers.of(principal).reach();
    var after = Requests.cursor(cursor);
    return database.read(
        session -> {
          get(session, name);
          return finding.isDrift()
              ? drifted(session, name, finding, reach, after, Requests.limit(limit))
              : ofNobody(session, name, finding, reach, after, Requests.limit(limit));
        });
  }

  /** As it is now: what was put right since it was last looked at is left out. */
  private Listing<FindingView> drifted(
      StatelessSession session, String name, Finding kind, Reach reach, Long after, int limit) {
    var page = drifts.list(session, name, kind, reach, after, limit);
    var who = page.items().stream().map(Drifts.Drifted::person).toList();
    if (who.isEmpty()) {
      return Requests.listing(page, _ -> null);
    }
    var drifting = new Drifting(name);
    var drafts =
        proposals.drafts(session, who).stream()
            .filter(drifting::add)
            .collect(Collectors.groupingBy(Draft::person));
    var values = drifts.values(session, name, who);
    var names = names(session, withReferences(who, drafts));
    var held =
        accounts.of(session, who).values().stream()
            .flatMap(List::stream)
            .filter(one -> one.application().equals(name) && one.level().exists())
            .collect(Collectors.toMap(Account::person, one -> one, (one, _) -> one));
    var views = new ArrayList<FindingView>();
    for (var one : page.items()) {
      var steps = drafts.get(one.person());
      if (steps != null) {
        var account = held.get(one.person());
        views.add(
            new FindingView(
                one.person().value(),
                account == null ? null : AccountViews.view(account, names.get(one.person())),
                one.person().value(),
                names.get(one.person()),
                one.since(),
                differences(steps, values.getOrDefault(one.person(), Map.of()), names),
                List.of()));
      }
    }
    return Listing.page(views, page.next());
  }

  private static Collection<PersonId> withReferences(
      List<PersonId> who, Map<PersonId, List<Draft>> drafts) {
    var all = new HashSet<>(who);
    drafts.values().stream()
        .flatMap(List::stream)
        .flatMap(draft -> draft.step().edits().values().stream())
        .filter(edit -> edit.after().isReference())
        .forEach(edit -> all.add(edit.after().accountOf()));
    return all;
  }

  private static List<DifferenceView> differences(
      List<Draft> steps, Map<String, Drifts.Value> values, Map<PersonId, String> names) {
    var differences = new ArrayList<DifferenceView>();
    for (var draft : steps) {
      var step = draft.step();
      var what = Drifting.names(step).iterator().next();
      switch (step.kind()) {
        case UPDATE ->
            step.edits()
                .forEach(
                    (attribute, edit) ->
                        differences.add(
                            difference(
                                attribute,
                                after(edit, names),
                                String.join("; ", edit.before()),
                                values)));
        case SUSPEND -> differences.add(difference(what, "off", "on", values));
        case OPEN, RETURN -> differences.add(difference(what, "on", "off", values));
        case CREATE -> differences.add(difference(what, "there", "missing", values));
        case JOIN, TAKE_SEAT -> differences.add(difference(what, "in it", "not in it", values));
        case LEAVE, FREE_SEAT -> differences.add(difference(what, "not in it", "in it", values));
        case CLOSE, DELETE, STRIP, RESET, SHUT, CATCH_UP -> {}
      }
    }
    return differences;
  }

  private static DifferenceView difference(
      String what, String here, String there, Map<String, Drifts.Value> values) {
    var value = values.get(what);
    return new DifferenceView(what, here, there, value == null ? 0 : value.times());
  }

  private static String after(Edit edit, Map<PersonId, String> names) {
    return edit.after().isReference()
        ? names.getOrDefault(edit.after().accountOf(), edit.after().toString())
        : String.join("; ", edit.after().texts());
  }

  private Listing<FindingView> ofNobody(
      StatelessSession session, String name, Finding kind, Reach reach, Long after, int limit) {
    var page = accounts.list(session, name, kind, reach, after, limit);
    var likely = new HashSet<PersonId>();
    for (var account : page.items()) {
      likely(account).forEach(one -> likely.add(one.person()));
      if (account.person() != null) {
        likely.add(account.person());
      }
    }
    Map<PersonId, StoredPerson> known =
        likely.isEmpty() ? Map.of() : people.getAll(session, likely);
    var theirs = new HashMap<PersonId, Account>();
    if (!likely.isEmpty()) {
      accounts.of(session, likely).values().stream()
          .flatMap(List::stream)
          .filter(one -> one.application().equals(name) && one.level().exists())
          .forEach(one -> theirs.put(one.person(), one));
    }
    return Requests.listing(page, account -> view(account, known, theirs));
  }

  private static List<Likely> likely(Account account) {
    return account.likely() == null ? List.of() : account.likely();
  }

  private static FindingView view(
      Account account, Map<PersonId, StoredPerson> known, Map<PersonId, Account> theirs) {
    var owner = account.person() == null ? null : known.get(account.person());
    return new FindingView(
        account.id(),
        AccountViews.view(account, owner == null ? null : owner.displayName()),
        account.person() == null ? null : account.person().value(),
        owner == null ? null : owner.displayName(),
        account.seenAt(),
        List.of(),
        likely(account).stream()
            .filter(one -> known.containsKey(one.person()))
            .map(one -> candidate(one, known.get(one.person()), theirs.get(one.person())))
            .toList());
  }

  private static CandidateView candidate(Likely likely, StoredPerson person, Account there) {
    return AccountController.view(new AccountMatching.Candidate(person, likely.why(), there));
  }

  private Map<PersonId, String> names(StatelessSession session, Collection<PersonId> who) {
    return who.isEmpty() ? Map.of() : people.displayNames(session, new HashSet<>(who));
  }

  /**
   * Shows what makes accounts there as they should be. Nothing is written before it is released.
   */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/put-right")
  SettledView putRight(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    return settled(chosen(name, kind, request, principal), desk::putRight);
  }

  /** Shows what follows if values there become the people's. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/take")
  SettledView take(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    if (request.attributes() == null || request.attributes().isEmpty()) {
      throw Refusal.invalid(AccountController.attributesMissing());
    }
    return settled(
        chosen(name, kind, request, principal),
        chosen ->
            desk.take(chosen, request.attributes(), person -> reaches.require(principal, person)));
  }

  /** Shows what follows if each account becomes that of the likeliest who has none there. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/link")
  SettledView link(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    return settled(
        chosen(name, kind, request, principal),
        chosen -> desk.link(chosen, who -> reaches.requireAll(principal, who)));
  }

  /** Shows what follows if accounts of nobody become people of their own. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/adopt")
  SettledView adopt(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    var as = new Adoption.As(request.userType(), request.suspended());
    return settled(
        chosen(name, kind, request, principal),
        chosen -> desk.adopt(chosen, as, person -> reaches.require(principal, person)));
  }

  /** Leaves accounts as they are, with a reason. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/leave-alone")
  SettledView leaveAlone(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    var why = Requests.required(request.reason(), "reason");
    return settled(chosen(name, kind, request, principal), chosen -> desk.leaveAlone(chosen, why));
  }

  /** Keeps accounts as they should be, again. */
  @Allowed(Act.EDIT_PEOPLE)
  @PostMapping("/{kind}/keep")
  SettledView keep(
      @PathVariable String name,
      @PathVariable String kind,
      @RequestBody SettleRequest request,
      Principal principal) {
    return settled(chosen(name, kind, request, principal), desk::keep);
  }

  private Chosen chosen(String name, String kind, SettleRequest request, Principal principal) {
    var application = database.read(session -> get(session, name));
    var finding = Requests.word(Finding.class, kind, "kind");
    if (request.ids() != null) {
      var who =
          finding.isDrift()
              ? request.ids().stream().map(PersonId::new).toList()
              : database.read(session -> ownersOf(session, request.ids()));
      reaches.requireAll(principal, who);
    }
    return new Chosen(
        application, finding, request.ids(), Callers.of(principal).reach(), principal.getName());
  }

  private Collection<PersonId> ownersOf(StatelessSession session, Collection<Long> ids) {
    return ids.isEmpty()
        ? List.of()
        : accounts.getAll(session, ids).values().stream()
            .map(Account::person)
            .filter(one -> one != null)
            .toList();
  }

  private static SettledView settled(Chosen chosen, Function<Chosen, Settled> act) {
    var settled = act.apply(chosen);
    return new SettledView(
        settled.set().map(set -> set.id()).orElse(null),
        settled.settled(),
        settled.leftOut().size(),
        settled.examples().stream()
            .map(one -> new LeftOutView(one.id(), one.name(), Problems.view(one.problem())))
            .toList());
  }

  private Application get(StatelessSession session, String name) {
    return applications
        .get(session, name)
        .orElseThrow(() -> Refusal.notFound("application", name, "See: ebb applications list"));
  }
}
