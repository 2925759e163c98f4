package ebb.service.comparison;

import ebb.api.AgreementView;
import ebb.api.ComparedValueView;
import ebb.api.ComparedView;
import ebb.api.ComparisonView;
import ebb.api.Listing;
import ebb.core.change.Finding;
import ebb.core.imports.Print;
import ebb.core.operator.Act;
import ebb.core.operator.Reach;
import ebb.core.person.Assertions;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.connections.Connections;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Two applications, or what a source says and what an application holds, side by side. */
@RestController
@RequestMapping("/api/v1/comparison")
class ComparisonController {
  private static final int PART = 500;

  /** So many people are gone through for one page; whoever wants more asks on. */
  private static final int MOST_LOOKED_AT = 20_000;

  private static final List<Finding> OF_NOBODY =
      Stream.of(Finding.values()).filter(Finding::isOfNobody).toList();

  private final Database database;
  private final Applications applications;
  private final Accounts accounts;
  private final Connections connections;
  private final Sources sources;
  private final People people;

  ComparisonController(
      Database database,
      Applications applications,
      Accounts accounts,
      Connections connections,
      Sources sources,
      People people) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.connections = connections;
    this.sources = sources;
    this.people = people;
  }

  /** Which people to show. */
  enum Part {
    ALL,
    BOTH,
    LEFT_ONLY,
    RIGHT_ONLY,
    DIFFERS
  }

  /**
   * How many are on both sides, on one alone, and how far the two agree.
   *
   * @param left an application, or a source
   */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  ComparisonView compare(@RequestParam String left, @RequestParam String right) {
    var one = side(left);
    var other = side(right);
    var comparing = new Comparing(one, other);
    List<PersonId> part;
    var last = new PersonId(0);
    do {
      var after = last;
      part = database.read(session -> people.after(session, after, PART));
      if (!part.isEmpty()) {
        var some = part;
        database.read(
            session -> {
              var of = load(session, some, one, other);
              some.forEach(person -> comparing.count(of.on(one, person), of.on(other, person)));
              return null;
            });
        last = part.getLast();
      }
    } while (!part.isEmpty());
    var logins = new HashSet<Print>();
    var leftOfNobody = ofNobody(one, account -> login(account).ifPresent(logins::add));
    var alike = new long[1];
    var rightOfNobody =
        ofNobody(
            other,
            account -> alike[0] += login(account).filter(logins::contains).isPresent() ? 1 : 0);
    return new ComparisonView(
        one.name(),
        other.name(),
        comparing.both(),
        comparing.leftOnly(),
        comparing.rightOnly(),
        leftOfNobody,
        rightOfNobody,
        alike[0],
        comparing.agreements().entrySet().stream()
            .map(
                entry ->
                    new AgreementView(
                        entry.getKey(),
                        entry.getValue().same(),
                        entry.getValue().differ(),
                        entry.getValue().leftEmpty(),
                        entry.getValue().rightEmpty()))
            .toList());
  }

  private static Optional<Print> login(Account account) {
    return account.observed().texts("userName").stream()
        .findFirst()
        .map(name -> Print.of(name.replaceFirst("@.*", "").toLowerCase(Locale.ROOT)));
  }

  private long ofNobody(Side side, Consumer<Account> each) {
    long count = 0;
    if (side instanceof Side.OfApplication(var name, _)) {
      for (var kind : OF_NOBODY) {
        long last = 0;
        List<Account> some;
        do {
          var after = last;
          some = database.read(session -> accounts.next(session, name, kind, after, PART));
          some.forEach(each);
          count += some.size();
          last = some.isEmpty() ? last : some.getLast().id();
        } while (!some.isEmpty());
      }
    }
    return count;
  }

  /**
   * People on two sides, in the order of their numbers.
   *
   * @param attribute only those whose values of it differ; for the part of those that differ
   */
  @Allowed(Act.SEE)
  @GetMapping("/people")
  Listing<ComparedView> people(
      @RequestParam String left,
      @RequestParam String right,
      @RequestParam(defaultValue = "all") String part,
      @RequestParam(required = false) String attribute,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    var one = side(left);
    var other = side(right);
    var wanted = Requests.word(Part.class, part, "part");
    var reach = Callers.of(principal).reach();
    var most = Requests.limit(limit);
    var after = Requests.cursor(cursor);
    var views = new ArrayList<ComparedView>();
    var last = new PersonId(after == null ? 0 : after);
    var looked = 0;
    List<PersonId> some;
    do {
      var from = last;
      some = database.read(session -> people.after(session, from, PART));
      if (!some.isEmpty()) {
        var who = some;
        var loaded = database.read(session -> load(session, who, one, other));
        for (var person : who) {
          last = person;
          view(loaded, one, other, person, wanted, attribute, reach).ifPresent(views::add);
          if (views.size() == most) {
            return Listing.page(views, Long.toString(last.value()));
          }
        }
        looked += some.size();
      }
    } while (!some.isEmpty() && looked < MOST_LOOKED_AT);
    return Listing.page(views, some.isEmpty() ? null : Long.toString(last.value()));
  }

  private static Optional<ComparedView> view(
      Loaded loaded,
      Side one,
      Side other,
      PersonId person,
      Part wanted,
      String attribute,
      Reach reach) {
    var here = loaded.on(one, person);
    var there = loaded.on(other, person);
    var stored = loaded.people().get(person);
    if ((here.isEmpty() && there.isEmpty()) || stored == null || !reach.covers(stored.person())) {
      return Optional.empty();
    }
    var differing =
        here.isPresent() && there.isPresent()
            ? new Comparing(one, other)
                .differing(here.get(), there.get()).stream()
                    .filter(value -> attribute == null || value.attribute().equals(attribute))
                    .toList()
            : List.<Comparing.Differing>of();
    var isWanted =
        switch (wanted) {
          case ALL -> true;
          case BOTH -> here.isPresent() && there.isPresent();
          case LEFT_ONLY -> there.isEmpty();
          case RIGHT_ONLY -> here.isEmpty();
          case DIFFERS -> !differing.isEmpty();
        };
    return isWanted
        ? Optional.of(
            new ComparedView(
                person.value(),
                stored.displayName(),
                here.map(Side.Has::calls).orElse(null),
                there.map(Side.Has::calls).orElse(null),
                differing.stream()
                    .map(
                        value ->
                            new ComparedValueView(value.attribute(), value.left(), value.right()))
                    .toList()))
        : Optional.empty();
  }

  private record Loaded(
      Map<PersonId, StoredPerson> people,
      Map<PersonId, List<Account>> accounts,
      Map<PersonId, List<Assertions>> asserted,
      Map<String, Map<PersonId, String>> keys) {
    Optional<Side.Has> on(Side side, PersonId person) {
      return side.of(
          accounts.getOrDefault(person, List.of()),
          asserted.getOrDefault(person, List.of()),
          keys.getOrDefault(side.name(), Map.of()).getOrDefault(person, ""));
    }
  }

  private Loaded load(StatelessSession session, Collection<PersonId> who, Side... sides) {
    var keys = new HashMap<String, Map<PersonId, String>>();
    for (var side : sides) {
      if (side instanceof Side.OfSource) {
        keys.put(side.name(), sources.keysOf(session, side.name(), who));
      }
    }
    return new Loaded(
        people.getAll(session, who),
        accounts.of(session, who),
        people.assertions(session, Set.copyOf(who)),
        keys);
  }

  private Side side(String name) {
    return database.read(
        session ->
            applications
                .get(session, name)
                .<Side>map(
                    application ->
                        new Side.OfApplication(
                            name,
                            attribute -> connections.capabilities(name).equalityOf(attribute)))
                .or(() -> sources.get(session, name).map(Side.OfSource::new))
                .orElseThrow(() -> new Refusal(Refusal.Kind.NOT_FOUND, unknown(name))));
  }

  private static Problem unknown(String name) {
    return new Problem(
        "side-unknown",
        "There is neither an application nor a source called %s.".formatted(name),
        "There is nothing to compare with.",
        "See: ebb applications list, and: ebb sources list",
        Where.field("left or right"));
  }
}
