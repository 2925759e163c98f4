package ebb.service.evaluation;

import ebb.core.application.Level;
import ebb.core.change.Input;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.compare.Compare;
import ebb.core.forecast.Moment;
import ebb.core.name.LoginScheme;
import ebb.core.person.Assertions;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import ebb.core.rule.Desire;
import ebb.core.rule.Desired;
import ebb.core.rule.Expressions;
import ebb.core.rule.Facts;
import ebb.core.rule.RecordedFacts;
import ebb.core.rule.Rule;
import ebb.core.rule.Subject;
import ebb.core.unit.UnitTree;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.changes.ChangeSets;
import ebb.store.imports.Units;
import ebb.store.people.EmergencyStops;
import ebb.store.people.Grants;
import ebb.store.people.LoginSchemes;
import ebb.store.people.Logins;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.Suspensions;
import ebb.store.rules.Rules;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Loads what the pure functions of core need, and runs them. The same call serves a preview (with
 * the inputs of a set that is not released), a release, and the last look when a change is claimed.
 */
@Component
public final class Evaluator {
  /**
   * People computed together. Several parts are held at once; of more people each, what they hold
   * grows old before it is garbage, and collecting it took a third of the time.
   */
  public static final int PART = 200;

  private final Expressions expressions = new Expressions();
  private final LoginScheme.Texts texts = expressions::textOfPerson;
  private final BusinessClock clock;
  private final Connections connections;
  private final People people;
  private final Sources sources;
  private final Logins logins;
  private final LoginSchemes schemes;
  private final Grants grants;
  private final Accounts accounts;
  private final Rules rules;
  private final ChangeSets changeSets;
  private final EmergencyStops stops;
  private final Suspensions suspensions;
  private final Units units;

  Evaluator(
      BusinessClock clock,
      Connections connections,
      People people,
      Sources sources,
      Logins logins,
      LoginSchemes schemes,
      Grants grants,
      Accounts accounts,
      Rules rules,
      ChangeSets changeSets,
      EmergencyStops stops,
      Suspensions suspensions,
      Units units) {
    this.stops = stops;
    this.suspensions = suspensions;
    this.units = units;
    this.clock = clock;
    this.connections = connections;
    this.people = people;
    this.sources = sources;
    this.logins = logins;
    this.schemes = schemes;
    this.grants = grants;
    this.accounts = accounts;
    this.rules = rules;
    this.changeSets = changeSets;
  }

  public Expressions expressions() {
    return expressions;
  }

  /** Names taken by people of one set who are computed in earlier parts of it. */
  public static final class Reserved {
    private final Map<String, PersonId> names = new HashMap<>();
  }

  /** Computes people as they are. */
  public List<Evaluated> evaluate(StatelessSession session, Collection<PersonId> who) {
    return evaluate(session, who, null, new Reserved());
  }

  /**
   * Computes people as they would be.
   *
   * @param set whose inputs that are not taken in yet count as if they were; null for none
   * @param reserved keep one over all parts of a set
   * @return in the order of their numbers
   */
  public List<Evaluated> evaluate(
      StatelessSession session, Collection<PersonId> who, Long set, Reserved reserved) {
    if (who.isEmpty()) {
      return List.of();
    }
    return evaluate(session, load(session, who, set), reserved);
  }

  /** People with all that is needed to compute them; it may be loaded ahead of that. */
  public static final class Loaded {
    private final Run run;

    private Loaded(Run run) {
      this.run = run;
    }

    public Set<PersonId> who() {
      return Collections.unmodifiableSet(run.who);
    }

    /** Those who are more than an input: nothing can be under way for the others. */
    public Set<PersonId> known() {
      return Collections.unmodifiableSet(run.known);
    }
  }

  /**
   * Loads what is needed to compute people.
   *
   * @param set whose inputs that are not taken in yet count as if they were; null for none
   */
  public Loaded load(StatelessSession session, Collection<PersonId> who, Long set) {
    return new Loaded(new Run(session, new TreeSet<>(who), set));
  }

  /** As {@link #load(StatelessSession, Collection, Long)}, where some of it is at hand. */
  public Loaded load(StatelessSession session, Collection<PersonId> who, Long set, AtHand atHand) {
    return new Loaded(
        new Run(
            session,
            new TreeSet<>(who),
            set,
            atHand.assertions()::of,
            atHand.inputs().isEmpty()
                ? inputsOf(set)
                : (_, ids) -> ids.stream().flatMap(atHand::inputsOf).toList()));
  }

  /** What a set says of people and is not taken in yet. */
  private interface Inputs extends BiFunction<StatelessSession, Set<PersonId>, List<Input>> {}

  private Inputs inputsOf(Long set) {
    return (session, ids) -> set == null ? List.of() : changeSets.inputs(session, set, ids);
  }

  /**
   * Computes people who were loaded, in a session of now.
   *
   * @param reserved keep one over all parts of a set
   * @return in the order of their numbers
   */
  public List<Evaluated> evaluate(StatelessSession session, Loaded loaded, Reserved reserved) {
    return loaded.run.all(session, reserved);
  }

  /** As {@link #evaluate}, as if the edits of rules in the set had never been made. */
  public List<Evaluated> evaluateWithoutEdits(
      StatelessSession session, Loaded loaded, Reserved reserved) {
    return new Run(loaded.run).all(session, reserved);
  }

  private Desire desire(List<Rule> rules) {
    return new Desire(rules, expressions, clock.zone());
  }

  /**
   * What somebody's accounts should be now, and at each later instant at which that changes.
   *
   * @param accounts those there are
   * @param moments the first is now
   */
  public record Course(Person person, List<Account> accounts, List<Moment> moments) {}

  /**
   * The courses of these people, in the order of their numbers.
   *
   * @param until no later instants are looked at
   */
  public List<Course> courses(StatelessSession session, Collection<PersonId> who, Instant until) {
    var run = new Run(session, new TreeSet<>(who), null);
    return run.who.stream().map(id -> run.course(id, until)).toList();
  }

  /**
   * Somebody before and after an edit of their names.
   *
   * @param after what would be of them with it
   */
  public record Renamed(Subject subject, Desired desired, Subject after, Desired desiredAfter) {}

  /**
   * What an edit of names would make of a person and their accounts; nothing is kept.
   *
   * @param input the edit
   * @param login by which they are to sign in; null for the one that follows
   */
  public Renamed renamed(StatelessSession session, Input.Assert input, Input.Login login) {
    var who = new TreeSet<>(Set.of(input.person()));
    var before = new Run(session, who, null);
    var after = new Run(session, who, null);
    after.take(input.person(), login == null ? List.of(input) : List.of(input, login));
    var subject = before.subject(input.person());
    var renamed = after.subject(input.person());
    return new Renamed(
        subject,
        before.desire.of(subject, before, before.now),
        renamed,
        after.desire.of(renamed, after, after.now));
  }

  /**
   * Computes people as if these inputs of theirs had been made; nothing is kept.
   *
   * @return in the order of their numbers
   */
  public List<Evaluated> tried(
      StatelessSession session, Map<PersonId, ? extends List<? extends Input>> inputs) {
    var run = new Run(session, new TreeSet<>(inputs.keySet()), null);
    inputs.forEach(run::take);
    return run.all(session, new Reserved());
  }

  /**
   * What a condition comes to for somebody.
   *
   * @param failure why it cannot be computed for them; null if it can
   */
  public record Matched(Person person, boolean holds, String failure) {}

  /** What a condition comes to for these people, in the order of their numbers. */
  public List<Matched> match(StatelessSession session, Collection<PersonId> who, String condition) {
    var run = new Run(session, new TreeSet<>(who), null);
    return run.who.stream().map(id -> run.matched(id, condition)).toList();
  }

  private final class Run implements Facts {
    private final TreeSet<PersonId> who;
    private final TreeSet<PersonId> known = new TreeSet<>();
    private final Long set;
    private final BiFunction<StatelessSession, Set<PersonId>, Map<PersonId, List<Assertions>>> said;
    private final Inputs put;
    private StatelessSession session;
    private Reserved reserved = new Reserved();
    private final Instant now = clock.instant();
    private final Desire desire;

    /** As if the set's edits of rules had never been made. */
    private final Desire standing;

    private final Map<String, Integer> ranks;

    /** Null until an expression reads it. */
    private UnitTree units;

    /** Null until somebody needs a login. */
    private LoginScheme scheme;

    private final Map<Integer, LoginScheme> madeBy = new HashMap<>();

    private final Map<PersonId, List<Input>> inputs = new HashMap<>();
    private final Map<PersonId, List<Assertions>> asserted = new HashMap<>();
    private final Map<PersonId, Person> persons = new HashMap<>();
    private final Map<PersonId, Logins.Held> held = new HashMap<>();
    private final Map<PersonId, List<Grant>> given = new HashMap<>();
    private final Map<PersonId, List<Suspension>> suspended = new HashMap<>();
    private final Map<PersonId, List<Account>> existing = new HashMap<>();
    private final Set<PersonId> stopped = new HashSet<>();
    private final Set<String> lookedUp = new HashSet<>();
    private final Map<String, PersonId> resting = new HashMap<>();
    private final Map<String, PersonId> owners = new HashMap<>();

    Run(StatelessSession session, TreeSet<PersonId> who, Long set) {
      this(session, who, set, people::assertions, inputsOf(set));
    }

    Run(
        StatelessSession session,
        TreeSet<PersonId> who,
        Long set,
        BiFunction<StatelessSession, Set<PersonId>, Map<PersonId, List<Assertions>>> said,
        Inputs put) {
      this.said = said;
      this.put = put;
      this.session = session;
      this.who = who;
      this.set = set;
      var sides = rules.sides(session, set);
      this.desire = desire(sides.with());
      this.standing = sides.differ() ? desire(sides.without()) : desire;
      this.ranks =
          sources.list(session).stream()
              .collect(Collectors.toMap(source -> source.name(), source -> source.rank()));
      load(who);
      // Whom these people's accounts may refer to, and whom their expressions may read.
      load(
          who.stream()
              .flatMap(id -> persons.get(id).manager().stream())
              .filter(id -> !persons.containsKey(id))
              .collect(Collectors.toCollection(TreeSet::new)));
    }

    /** As if these inputs of one person had been made. */
    private void take(PersonId id, List<? extends Input> made) {
      inputs.put(id, List.copyOf(made));
      asserted.put(id, withInputs(id, asserted.get(id)));
      suspended.put(id, ordered(suspended.get(id), id));
      persons.put(
          id, Person.resolve(id, asserted.get(id), source -> ranks.getOrDefault(source, 0)));
    }

    /** What another has loaded, without the set's edits of rules. */
    Run(Run other) {
      this.said = other.said;
      this.put = other.put;
      this.session = other.session;
      this.who = other.who;
      this.set = other.set;
      this.desire = other.standing;
      this.standing = other.standing;
      this.ranks = other.ranks;
      known.addAll(other.known);
      inputs.putAll(other.inputs);
      asserted.putAll(other.asserted);
      persons.putAll(other.persons);
      held.putAll(other.held);
      given.putAll(other.given);
      suspended.putAll(other.suspended);
      existing.putAll(other.existing);
      stopped.addAll(other.stopped);
      lookedUp.addAll(other.lookedUp);
      resting.putAll(other.resting);
      owners.putAll(other.owners);
    }

    List<Evaluated> all(StatelessSession session, Reserved reserved) {
      this.session = session;
      this.reserved = reserved;
      return who.stream().map(this::one).toList();
    }

    private void load(Set<PersonId> ids) {
      if (ids.isEmpty()) {
        return;
      }
      put.apply(session, ids)
          .forEach(
              input -> inputs.computeIfAbsent(input.person(), _ -> new ArrayList<>()).add(input));
      said.apply(session, ids)
          .forEach(
              (id, now) -> {
                asserted.put(id, withInputs(id, now));
                if (!now.isEmpty()) {
                  known.add(id);
                }
              });
      ids.forEach(
          id ->
              persons.put(
                  id,
                  Person.resolve(id, asserted.get(id), source -> ranks.getOrDefault(source, 0))));
      held.putAll(logins.of(session, ids));
      // Whoever was let through has a login, even where nothing is said of them any more.
      known.addAll(held.keySet());
      var granted = grants.of(session, ids);
      ids.forEach(id -> given.put(id, withInputs(granted.getOrDefault(id, List.of()), id)));
      var ordered = suspensions.of(session, ids);
      ids.forEach(id -> suspended.put(id, ordered(ordered.getOrDefault(id, List.of()), id)));
      existing.putAll(accounts.of(session, ids));
      ids.forEach(this::linkByInputs);
      known.addAll(existing.keySet());
      stopped.addAll(stops.among(session, ids));
      lookUpNames(ids);
    }

    private void linkByInputs(PersonId id) {
      for (var input : inputs.getOrDefault(id, List.of())) {
        switch (input) {
          case Input.Link(_, var number) ->
              accounts
                  .get(session, number)
                  .filter(account -> account.person() == null && !has(id, account.application()))
                  .ifPresent(account -> accountsOf(id).add(account.of(id).leftAlone(null)));
          case Input.Unlink(_, var number) ->
              accountsOf(id).removeIf(account -> account.id() == number);
          case Input.Assert _,
              Input.Rekey _,
              Input.MoveKey _,
              Input.Login _,
              Input.Give _,
              Input.EndGrant _,
              Input.Suspend _,
              Input.EndSuspension _ -> {}
        }
      }
    }

    private boolean has(PersonId id, String application) {
      return existing(id).stream().anyMatch(account -> account.application().equals(application));
    }

    private List<Account> accountsOf(PersonId id) {
      return existing.compute(
          id, (_, held) -> held == null ? new ArrayList<>() : new ArrayList<>(held));
    }

    /** The name each would like best, in one question: most get it. */
    private void lookUpNames(Set<PersonId> ids) {
      var names =
          ids.stream()
              .map(persons::get)
              .filter(person -> !person.attributes().isEmpty())
              .filter(person -> !held.containsKey(person.id()))
              .map(person -> scheme().candidates(person, texts).findFirst().orElseThrow())
              .collect(Collectors.toSet());
      owners.putAll(logins.owners(session, names));
      resting.putAll(logins.resting(session, names, clock.today()));
      lookedUp.addAll(names);
    }

    private List<Assertions> withInputs(PersonId id, List<Assertions> now) {
      // What is only tried out belongs to no set.
      long cause = set == null ? 0 : set;
      var bySource = new TreeMap<String, Assertions>();
      now.forEach(assertions -> bySource.put(assertions.source(), assertions));
      for (var input : inputs.getOrDefault(id, List.of())) {
        if (input instanceof Input.Assert(_, var source, _, _, var edits, var until)) {
          bySource.merge(
              source,
              Assertions.none(id, source).with(edits, until, this.now, cause),
              (before, _) -> before.with(edits, until, this.now, cause));
        }
      }
      return bySource.values().stream().filter(all -> !all.values().isEmpty()).toList();
    }

    private List<Grant> withInputs(List<Grant> now, PersonId id) {
      var byId = new TreeMap<Long, Grant>();
      now.forEach(grant -> byId.put(grant.id(), grant));
      for (var input : inputs.getOrDefault(id, List.of())) {
        switch (input) {
          case Input.Give(_, var grant) -> byId.put(grant.id(), grant);
          case Input.EndGrant(_, var grant) -> byId.remove(grant);
          case Input.Assert _,
              Input.Rekey _,
              Input.MoveKey _,
              Input.Login _,
              Input.Link _,
              Input.Unlink _,
              Input.Suspend _,
              Input.EndSuspension _ -> {}
        }
      }
      return List.copyOf(byId.values());
    }

    private List<Suspension> ordered(List<Suspension> now, PersonId id) {
      var all = new ArrayList<>(now);
      for (var input : inputs.getOrDefault(id, List.of())) {
        if (input instanceof Input.Suspend(_, var suspension)) {
          all.add(suspension);
        } else if (input instanceof Input.EndSuspension(_, var ended)) {
          all.removeIf(one -> one.id() == ended);
        }
      }
      return all;
    }

    private Evaluated one(PersonId id) {
      var subject = subject(id);
      var facts = new RecordedFacts(this);
      var desired = desire.of(subject, facts, now);
      if (subject.stopped()) {
        // What no rule gives is shut as well, and its closing waits until the stop is lifted.
        existing(id)
            .forEach(
                account ->
                    desired
                        .accounts()
                        .putIfAbsent(account.application(), Desire.stopped(account.application())));
      }
      var wakesAt =
          Stream.concat(desire.turningPoints(subject).stream(), endsOf(subject.person()))
              .filter(now::isBefore)
              .min(Comparator.naturalOrder());
      return new Evaluated(
          subject,
          subject.person().stage(now, clock.zone()),
          asserted.get(id),
          existing(id),
          desired,
          drafts(id, desired),
          facts.read(),
          wakesAt.orElse(null));
    }

    Matched matched(PersonId id, String condition) {
      var subject = subject(id);
      var verdict = desire.verdict(condition, subject, this);
      return new Matched(subject.person(), verdict.holds(), verdict.failure());
    }

    /** The instants at which something is not said any more. */
    private Stream<Instant> endsOf(Person person) {
      return asserted.get(person.id()).stream()
          .flatMap(all -> all.values().values().stream())
          .filter(one -> one.until() != null)
          .map(one -> one.until().plusDays(1).atStartOfDay(person.zone(clock.zone())).toInstant());
    }

    Course course(PersonId id, Instant until) {
      var subject = subject(id);
      var later =
          desire.turningPoints(subject).stream()
              .filter(at -> now.isBefore(at) && !at.isAfter(until));
      return new Course(
          subject.person(),
          existing(id),
          Stream.concat(Stream.of(now), later).map(at -> moment(subject, at)).toList());
    }

    private Moment moment(Subject subject, Instant at) {
      return new Moment(at, subject.person().stage(at, clock.zone()), desire.of(subject, this, at));
    }

    private Subject subject(PersonId id) {
      var person = persons.get(id);
      var names = held.getOrDefault(id, Logins.Held.NONE);
      var login = login(person, names);
      return new Subject(
          person,
          login,
          aliases(names, login),
          given.get(id),
          suspended.get(id),
          stopped.contains(id));
    }

    /** A login that no longer fits the name gives way to a new one. */
    private String login(Person person, Logins.Held names) {
      var current = names.current();
      var chosen = chosenLogin(person.id());
      if (chosen.isPresent()) {
        reserved.names.put(chosen.get(), person.id());
        return chosen.get();
      }
      if (person.attributes().isEmpty()
          || person.stage(now, clock.zone()) == Stage.DEPARTED
          || (current != null && (names.isFound() || fits(names, person)))) {
        return current;
      }
      var login =
          Optional.ofNullable(current == null ? nameFound(person.id()) : null)
              .orElseGet(() -> scheme().allocate(person, texts, name -> isFree(name, person.id())));
      reserved.names.put(login, person.id());
      return login;
    }

    /** Whether a login is as the scheme wants it by which it was made; those of now came later. */
    private boolean fits(Logins.Held names, Person person) {
      return madeBy
          .computeIfAbsent(names.scheme(), number -> schemes.numbered(session, number))
          .fits(names.current(), person, texts);
    }

    private LoginScheme scheme() {
      if (scheme == null) {
        scheme = schemes.inForce(session);
      }
      return scheme;
    }

    /** What the set says, unless somebody else got it meanwhile. */
    private Optional<String> chosenLogin(PersonId id) {
      return inputs.getOrDefault(id, List.of()).stream()
          .filter(Input.Login.class::isInstance)
          .map(input -> ((Input.Login) input).login())
          .filter(login -> login != null && isFree(login, id))
          .reduce((_, last) -> last);
    }

    /** By which somebody new signs in where they were found; null if there is no such name. */
    private String nameFound(PersonId id) {
      return existing(id).stream()
          // What is called by a stand-in is called by nobody's name.
          .filter(account -> account.strippedAt() == null)
          .flatMap(account -> account.observed().texts(LoginScheme.ATTRIBUTE).stream())
          .map(text -> text.replaceFirst("@.*", "").toLowerCase(Locale.ROOT))
          .filter(LoginScheme::mayBeFound)
          .filter(name -> isFree(name, id))
          .findFirst()
          .orElse(null);
    }

    private boolean isFree(String name, PersonId id) {
      var isLookedUp = lookedUp.contains(name);
      var owner = isLookedUp ? Optional.ofNullable(owners.get(name)) : logins.owner(session, name);
      return reserved.names.getOrDefault(name, id).equals(id)
          && owner.filter(other -> !other.equals(id)).isEmpty()
          && (isLookedUp ? resting : logins.resting(session, Set.of(name), clock.today()))
              .getOrDefault(name, id)
              .equals(id);
    }

    private static List<String> aliases(Logins.Held names, String login) {
      var aliases = new ArrayList<>(names.aliases());
      if (names.current() != null && !names.current().equals(login)) {
        aliases.add(names.current());
      }
      aliases.remove(login);
      return aliases;
    }

    @Override
    public List<String> path(String unit) {
      if (units == null) {
        units = Evaluator.this.units.tree(session, set);
      }
      return units.path(unit);
    }

    @Override
    public Optional<Person> person(PersonId id) {
      var loaded = persons.get(id);
      return loaded != null
          ? Optional.of(loaded)
          : people.get(session, id).map(stored -> stored.person());
    }

    private List<Account> existing(PersonId id) {
      return existing.getOrDefault(id, List.of()).stream()
          .filter(account -> account.level().exists())
          .toList();
    }

    private List<Draft> drafts(PersonId id, Desired desired) {
      var byApplication =
          existing(id).stream()
              .collect(Collectors.toMap(Account::application, account -> account, (one, _) -> one));
      var names = new TreeSet<>(desired.accounts().keySet());
      names.addAll(byApplication.keySet());
      names.removeAll(desired.leftAlone());
      var drafts = new ArrayList<Draft>();
      for (var application : names) {
        var account = Optional.ofNullable(byApplication.get(application));
        new Compare(connections.capabilities(application), target -> reference(target, application))
            .differences(
                Optional.ofNullable(desired.accounts().get(application)),
                account.map(Account::held))
            .forEach(
                difference ->
                    drafts.add(
                        new Draft(
                            id,
                            application,
                            account.map(Account::id).orElse(null),
                            Step.removing(difference))));
      }
      return drafts;
    }

    private final Map<String, Compare.Reference> references = new HashMap<>();

    private Compare.Reference reference(PersonId target, String application) {
      return references.computeIfAbsent(
          target + " " + application, _ -> findReference(target, application));
    }

    private Compare.Reference findReference(PersonId target, String application) {
      var there =
          existing(target).stream()
              .filter(account -> account.application().equals(application))
              .findFirst();
      if (there.isPresent()) {
        return new Compare.Reference.Known(there.get().observed().id());
      }
      var isComing =
          persons.containsKey(target)
              && Optional.ofNullable(
                      desire.of(subject(target), this, now).accounts().get(application))
                  .filter(account -> account.level() != Level.SUSPENDED)
                  .isPresent();
      return isComing ? new Compare.Reference.Coming() : new Compare.Reference.None();
    }
  }

  /** Everyone the people's changes may concern: themselves and those who read them. */
  public Set<PersonId> withReaders(StatelessSession session, Collection<PersonId> changed) {
    var all = new HashSet<>(changed);
    if (!changed.isEmpty()) {
      all.addAll(people.readersOf(session, changed));
    }
    return all;
  }
}
