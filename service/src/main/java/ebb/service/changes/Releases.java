package ebb.service.changes;

import ebb.core.change.Cause;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.Input;
import ebb.core.change.Needs.Draft;
import ebb.core.change.SetState;
import ebb.core.guard.ChangeGuard;
import ebb.core.imports.Source;
import ebb.core.name.LoginScheme;
import ebb.core.person.Assertions;
import ebb.core.person.Attribute;
import ebb.core.person.Conflicts;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Grants;
import ebb.store.people.LoginSchemes;
import ebb.store.people.Logins;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredConflicts;
import ebb.store.people.Suspensions;
import ebb.store.rules.Rules;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Lets change sets through. A person's inputs and changes go together, and only if computing them
 * again gives what was shown; the others are shown anew and stay. Goes part by part, so that a
 * crash in between is taken up where it happened.
 */
@Component
public final class Releases {
  /** Who releases what its cause lets go on by itself. */
  public static final String BY_ITSELF = "ebb";

  private static final Logger LOG = LoggerFactory.getLogger(Releases.class);

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final Changes changes;
  private final People people;
  private final Sources sources;
  private final Logins logins;
  private final LoginSchemes schemes;
  private final Grants grants;
  private final Suspensions suspensions;
  private final Accounts accounts;
  private final OwnAttributes attributes;
  private final StoredConflicts conflicts;
  private final Journal journal;
  private final Rules rules;
  private final ReleaseTurns turns;
  private final List<Aftermath> aftermaths;

  Releases(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      Proposals proposals,
      ChangeSets changeSets,
      Changes changes,
      People people,
      Sources sources,
      Logins logins,
      LoginSchemes schemes,
      Grants grants,
      Suspensions suspensions,
      Accounts accounts,
      OwnAttributes attributes,
      StoredConflicts conflicts,
      Journal journal,
      Rules rules,
      ReleaseTurns turns,
      List<Aftermath> aftermaths) {
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.schemes = schemes;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.changes = changes;
    this.people = people;
    this.sources = sources;
    this.logins = logins;
    this.grants = grants;
    this.suspensions = suspensions;
    this.accounts = accounts;
    this.attributes = attributes;
    this.conflicts = conflicts;
    this.journal = journal;
    this.rules = rules;
    this.turns = turns;
    this.aftermaths = aftermaths;
  }

  /**
   * Releases a set.
   *
   * @param version the one the operator saw; null to take the one there is
   * @param reason lets a guard stop pass; null where there is none
   * @throws Refusal if it is not shown, was written since, or the guard stops it
   */
  public ChangeSet release(long id, Long version, String by, String reason) {
    return release(id, version, by, reason, List.of());
  }

  /**
   * Releases the part of a set that concerns these people, and whoever must come before them (a
   * manager, of whom their accounts speak); the rest stays shown.
   *
   * @param part empty for all
   */
  public ChangeSet release(
      long id, Long version, String by, String reason, Collection<PersonId> part) {
    return goOn(begun(id, version, by, reason, part));
  }

  /**
   * As {@link #release}, and waits for its end no longer than is said: it goes on without the
   * caller.
   */
  void release(
      long id,
      Long version,
      String by,
      String reason,
      Collection<PersonId> part,
      Duration longest) {
    var set = begun(id, version, by, reason, part);
    var over = new CompletableFuture<ChangeSet>();
    Thread.ofVirtual()
        .name("release-" + id)
        .start(
            () -> {
              try {
                over.complete(goOn(set));
              } catch (RuntimeException e) {
                LOG.error("The release of change set {} broke off", id, e);
                over.completeExceptionally(e);
              }
            });
    try {
      over.get(longest.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException _) {
      // Whoever released it follows it.
    } catch (InterruptedException _) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException e) {
      throw new IllegalStateException(
          "The release of change set %d broke off".formatted(id), e.getCause());
    }
  }

  private ChangeSet begun(
      long id, Long version, String by, String reason, Collection<PersonId> part) {
    return database.write(
        session -> {
          var all = withNeeded(session, id, part);
          changeSets.beginPart(session, id, all);
          return begin(session, id, version, by, reason, all.size());
        });
  }

  private Set<PersonId> withNeeded(StatelessSession session, long id, Collection<PersonId> part) {
    var all = new TreeSet<>(part);
    for (Collection<PersonId> open = part; !open.isEmpty(); ) {
      open =
          changes.neededFirst(session, id, open).stream()
              .filter(person -> !all.contains(person))
              .toList();
      all.addAll(open);
    }
    return all;
  }

  /**
   * The first people of a set, in the order in which it is shown, for whom nothing was released.
   */
  public List<PersonId> first(long id, int count) {
    var set = database.read(session -> get(session, id));
    var first = new ArrayList<PersonId>();
    PersonId last = null;
    for (var part = next(set, false, last);
        !part.isEmpty() && first.size() < count;
        part = next(set, false, last)) {
      last = part.last();
      part.stream().limit(count - first.size()).forEach(first::add);
    }
    return first;
  }

  /** Releases what the cause of a set lets go on by itself; the rest stays shown. */
  public void releaseByItself(ChangeSet set) {
    if (set.stops().isEmpty()) {
      release(set.id(), null, BY_ITSELF, null);
    }
  }

  /**
   * A set of urgent steps that is released as it is made, past every guard: no crash comes between.
   */
  public ChangeSet atOnce(
      StatelessSession session, String title, String by, Collection<Draft> drafts) {
    var now = clock.instant();
    var set =
        ChangeSet.begun(changeSets.number(session), Cause.EMERGENCY, title, null, by, now)
            .in(SetState.RELEASED, by, now);
    changeSets.insert(session, set);
    var numbers = changes.numbers(session, drafts.size());
    changes.add(
        session,
        drafts.stream()
            .map(draft -> Proposals.proposed(numbers.pop(), set, draft))
            .map(change -> change.waits(ChangeState.QUEUED, Instant.EPOCH, null))
            .toList());
    return set;
  }

  /** Takes up releases that a crash broke off. */
  @EventListener(ApplicationReadyEvent.class)
  void resume() {
    for (var id : database.read(changeSets::releasing)) {
      var set = database.read(session -> get(session, id));
      Thread.ofVirtual().name("release-" + id).start(() -> goOn(set));
    }
  }

  /** Gives a set up before release. */
  public ChangeSet discard(long id, Long version, String by) {
    return database.write(
        session -> {
          var set = shown(session, id, version);
          changes.withdrawAll(session, id);
          changeSets.dropInputs(session, id);
          journal.write(session, clock.instant(), Deed.of(by, "discarded change set " + id));
          // What was let through in parts stays, and can be taken back as any set.
          var done =
              changeSets.isPartlyReleased(session, id)
                  ? set.in(SetState.RELEASED, set.releasedBy(), set.releasedAt())
                  : set.in(SetState.DISCARDED, null, null);
          return written(session, done);
        });
  }

  /** Tries again what was refused, and what needed it. */
  public int retry(long id, String by) {
    return database.write(
        session -> {
          get(session, id);
          var count = changes.retry(session, id, Instant.now());
          journal.write(session, clock.instant(), Deed.of(by, "retried change set " + id));
          return count;
        });
  }

  /**
   * Lets a run go on that stopped by itself. What was refused so far counts no more against it.
   *
   * @return how many changes go on
   */
  public int goOn(long id, String by) {
    return database.write(
        session -> {
          get(session, id);
          changeSets.letFailures(session, id, changes.countRefused(session, id));
          journal.write(
              session, clock.instant(), Deed.of(by, "let change set %d go on".formatted(id)));
          return changes.goOn(session, id);
        });
  }

  private ChangeSet begin(
      StatelessSession session, long id, Long version, String by, String reason, int part) {
    var set = shown(session, id, version);
    var stops = new ArrayList<>(set.stops());
    // The window has moved since the set was shown.
    proposals.stops(session, set).stream()
        .filter(stop -> stops.stream().noneMatch(old -> old.code().equals(stop.code())))
        .forEach(stops::add);
    takeRulesIn(session, id, part);
    if (!stops.isEmpty() && (reason == null || reason.isBlank())) {
      throw new Refusal(Refusal.Kind.STOPPED, stops);
    }
    // Its title may name people, and they are to be forgotten.
    journal.write(
        session,
        clock.instant(),
        Deed.of(
                by,
                "released change set %d (%s)%s"
                    .formatted(
                        id,
                        set.cause().word(),
                        part == 0 ? "" : " for %d people first".formatted(part)))
            .because(reason));
    return written(session, set.in(SetState.RELEASING, by, clock.instant()));
  }

  /** From now on everyone is computed by them. */
  private void takeRulesIn(StatelessSession session, long id, int part) {
    var edits = rules.edits(session, id);
    if (part > 0 && !edits.isEmpty()) {
      throw Refusal.conflict(
          new Problem(
              "rule-in-parts",
              "Change set %d edits rule %s, which holds for everybody or nobody."
                  .formatted(id, edits.getFirst().name()),
              "What a rule gives to some cannot be released before it is in force for all.",
              "Release the whole set; or edit the rule so that only the first few are meant.",
              null));
    }
    var since = rules.takeIn(session, id);
    if (!since.isEmpty()) {
      throw Refusal.conflict(
          new Problem(
              "rule-edited-since",
              "Rule %s was edited since change set %d was shown."
                  .formatted(String.join(", ", since), id),
              "What is shown does not follow from what would come into force.",
              "Discard the set, look at the rule as it is now, and edit that:"
                  + " ebb rules show %s".formatted(since.getFirst()),
              null));
    }
  }

  /** Once nothing else of its source goes on; another process may have done it by then. */
  private ChangeSet goOn(ChangeSet set) {
    return turns.alone(
        set,
        () -> {
          var now = database.read(session -> get(session, set.id()));
          return now.state() == SetState.RELEASING ? takeIn(now) : now;
        });
  }

  private ChangeSet takeIn(ChangeSet set) {
    var reserved = new Evaluator.Reserved();
    var goes = database.read(session -> going(session, set));
    var isPart = !database.read(session -> changeSets.part(session, set.id(), null, 1)).isEmpty();
    PersonId last = null;
    for (var part = next(set, isPart, last); !part.isEmpty(); part = next(set, isPart, last)) {
      last = part.last();
      var who = part;
      database.writeAll(session -> release(session, set, who, reserved, goes));
    }
    return database.write(session -> finish(session, set));
  }

  /** The next people with inputs or changes of the set, or of the part of it being released. */
  private TreeSet<PersonId> next(ChangeSet set, boolean isPart, PersonId after) {
    return database.read(
        session -> {
          if (isPart) {
            return new TreeSet<>(changeSets.part(session, set.id(), after, Evaluator.PART));
          }
          var who = new TreeSet<>(changeSets.nextPeople(session, set.id(), after, Evaluator.PART));
          who.addAll(changes.peopleProposed(session, set.id(), after, Evaluator.PART));
          return who.stream().limit(Evaluator.PART).collect(Collectors.toCollection(TreeSet::new));
        });
  }

  private void release(
      StatelessSession session,
      ChangeSet set,
      Set<PersonId> who,
      Evaluator.Reserved reserved,
      Going goes) {
    var shown =
        changes.proposed(session, set.id(), who).stream()
            .collect(Collectors.groupingBy(Change::person));
    var inputs =
        changeSets.inputs(session, set.id(), who).stream()
            .collect(Collectors.groupingBy(Input::person));
    var underWay =
        changes.underWay(session, who).stream().collect(Collectors.groupingBy(Change::person));
    var asShown = new ArrayList<Evaluated>();
    for (var person : evaluator.evaluate(session, who, set.id(), reserved)) {
      var id = person.subject().person().id();
      var drafts = Proposals.notUnderWay(underWay.getOrDefault(id, List.of()), person.drafts());
      if (isAsShown(set, drafts, shown.getOrDefault(id, List.of()))) {
        asShown.add(person);
      } else {
        changes.withdraw(session, set.id(), List.of(id));
        proposals.showAnew(session, set, drafts);
      }
    }
    take(session, set, asShown, inputs, shown, goes);
  }

  private static boolean isAsShown(ChangeSet set, List<Draft> now, List<Change> shown) {
    return switch (set.cause()) {
      case ORDER, DEPARTURE, EMERGENCY -> true;
      case SYNC, RULE -> {
        // These propose only some of what is to be done.
        yield Shape.of(now).containsAll(Shape.of(drafts(shown)));
      }
      default -> Shape.of(now).equals(Shape.of(drafts(shown)));
    };
  }

  private static List<Draft> drafts(List<Change> shown) {
    return shown.stream()
        .map(
            change ->
                new Draft(change.person(), change.application(), change.account(), change.step()))
        .toList();
  }

  private void take(
      StatelessSession session,
      ChangeSet set,
      List<Evaluated> evaluated,
      Map<PersonId, List<Input>> inputs,
      Map<PersonId, List<Change>> shown,
      Going goes) {
    var reads = new TreeMap<PersonId, Set<PersonId>>();
    var deeds = new ArrayList<Deed>();
    for (var person : evaluated) {
      inputs
          .getOrDefault(person.subject().person().id(), List.of())
          .forEach(input -> deeds.add(apply(session, set, person, input)));
    }
    journal.write(session, clock.instant(), deeds);
    keep(session, evaluated);
    for (var person : evaluated) {
      var id = person.subject().person().id();
      reads.put(id, person.reads());
      var going = goes.of(shown.getOrDefault(id, List.of()));
      if (goes.isOfSome()) {
        changes.release(session, going.stream().map(Change::id).toList());
      }
      aftermaths.forEach(after -> after.released(session, person, going, clock.instant()));
    }
    if (!evaluated.isEmpty()) {
      changeSets.markApplied(session, set.id(), reads.keySet());
      if (!goes.isOfSome()) {
        changes.release(session, set.id(), reads.keySet(), goes.kinds());
      }
      people.keepReads(session, reads);
      keepConflicts(session, evaluated);
    }
  }

  private void keepConflicts(StatelessSession session, List<Evaluated> evaluated) {
    var now = new HashMap<PersonId, SortedMap<String, SortedMap<String, String>>>();
    evaluated.forEach(
        person ->
            now.put(
                person.subject().person().id(), Conflicts.in(person.assertions(), Source.HAND)));
    conflicts.keep(session, now.keySet(), now);
  }

  /**
   * What of a set goes on.
   *
   * @param kept rules that brought about more than goes by itself
   */
  private record Going(Set<ChangeKind> kinds, Set<String> kept) {
    /** Whether that is not the same for everybody. */
    boolean isOfSome() {
      return !kept.isEmpty();
    }

    /** Where something of an account waits, all of it does. */
    List<Change> of(List<Change> shown) {
      var waiting =
          shown.stream()
              .filter(change -> kept.contains(change.ground()))
              .map(Change::application)
              .collect(Collectors.toSet());
      return shown.stream()
          .filter(change -> kinds.contains(change.kind()))
          .filter(change -> !waiting.contains(change.application()))
          .toList();
    }
  }

  private Going going(StatelessSession session, ChangeSet set) {
    return isByItself(set)
        ? new Going(releasing(set.cause()), beyondByItself(session, set).keySet())
        : new Going(EnumSet.allOf(ChangeKind.class), Set.of());
  }

  private static Set<ChangeKind> releasing(Cause cause) {
    return EnumSet.allOf(ChangeKind.class).stream()
        .filter(cause::releases)
        .collect(Collectors.toCollection(() -> EnumSet.noneOf(ChangeKind.class)));
  }

  private static boolean isByItself(ChangeSet set) {
    return BY_ITSELF.equals(set.releasedBy());
  }

  private static Deed keptBack(ChangeSet set, String rule, long count) {
    return Deed.of(
        BY_ITSELF,
        "kept back what rule %s brings in change set %d: with it, %,d people within a day"
            .formatted(rule, set.id(), count));
  }

  private static Problem beyond(Map.Entry<String, Long> rule) {
    return new Problem(
        "more-than-by-itself",
        "With it, rule %s would change %,d people within a day."
            .formatted(rule.getKey(), rule.getValue()),
        "More than that rule may change with nobody's release, so what it brings was kept back.",
        "Look at whom it concerns, and let it through if that is right.",
        null);
  }

  /** Rules that would change more people than they may by themselves, and how many. */
  private SortedMap<String, Long> beyondByItself(StatelessSession session, ChangeSet set) {
    var since = clock.instant().minus(ChangeGuard.WINDOW);
    var beyond = new TreeMap<String, Long>();
    rules.list(session).stream()
        .map(Rules.Stored::rule)
        .filter(rule -> rule.byItself() != null)
        .forEach(
            rule -> {
              var count = changes.peopleBy(session, rule.name(), set.id(), BY_ITSELF, since);
              if (count > rule.byItself()) {
                beyond.put(rule.name(), count);
              }
            });
    return beyond;
  }

  /** Takes an input in; says what was done. */
  private Deed apply(StatelessSession session, ChangeSet set, Evaluated person, Input input) {
    return switch (input) {
      case Input.Assert(var id, var source, var key, var rowHash, var edits, _) -> {
        var next =
            person.assertions().stream()
                .filter(assertions -> assertions.source().equals(source))
                .findFirst()
                .orElseGet(() -> Assertions.none(id, source));
        people.assertNow(session, next, clock.instant(), set.id());
        if (key == null) {
          sources.forgetHashes(session, source, List.of(id));
        } else {
          sources.keepKey(session, source, key, id, rowHash);
        }
        yield new Deed(
            set.createdBy(),
            "changed what %s says of a person (change set %d)".formatted(source, set.id()),
            id,
            null,
            edits);
      }
      case Input.Rekey(var id, var source, var from, var to) -> {
        sources.rekey(session, source, from, to, id);
        yield new Deed(
            set.createdBy(),
            "gave a person another key of %s (change set %d)".formatted(source, set.id()),
            id,
            null,
            Map.of("from", from, "to", to));
      }
      case Input.MoveKey(var id, var source, var key, var from) -> {
        sources.keepKey(session, source, key, id, null);
        yield new Deed(
            set.createdBy(),
            "a key of %s is another person's now (change set %d)".formatted(source, set.id()),
            id,
            null,
            Map.of("key", key, "from", from.toString()));
      }
      case Input.Link(var id, var account) -> linked(session, set, id, account);
      case Input.Unlink(var id, var account) -> unlinked(session, set, id, account);
      case Input.Login(var id, var login, var kept, _, _) -> {
        if (login != null
            && logins.owner(session, login).filter(one -> !one.equals(id)).isEmpty()) {
          var scheme = schemes.inForce(session).number();
          logins.allocate(session, id, login, kept, scheme, clock.instant());
        }
        yield new Deed(
            set.createdBy(),
            "said by which name a person signs in (change set %d)".formatted(set.id()),
            id,
            null,
            Map.of("login", String.valueOf(person.subject().login())));
      }
      case Input.Give(var id, var grant) -> {
        grants.give(session, grant, set.id());
        holdMembership(session, grant);
        yield Deed.of(
                set.createdBy(),
                grant.group() == null
                    ? "gave an account in " + grant.application()
                    : "gave group %s in %s".formatted(grant.group(), grant.application()),
                id)
            .because(grant.reason());
      }
      case Input.EndGrant(var id, var grant) -> {
        grants.end(session, grant, set.id());
        yield Deed.of(set.createdBy(), "ended grant " + grant, id);
      }
      case Input.Suspend(var id, var suspension) -> {
        suspensions.order(session, suspension, set.id());
        yield Deed.of(set.createdBy(), "suspended a person (change set %d)".formatted(set.id()), id)
            .because(suspension.discreet() ? "discreet" : suspension.reason().word());
      }
      case Input.EndSuspension(var id, var suspension) -> {
        suspensions.end(session, suspension, set.id());
        yield Deed.of(
            set.createdBy(), "ended a suspension (change set %d)".formatted(set.id()), id);
      }
    };
  }

  /** Who is in the group already holds it for this reason from now on. */
  private void holdMembership(StatelessSession session, Grant grant) {
    if (grant.group() != null) {
      accounts
          .existing(session, grant.person(), grant.application())
          .filter(account -> account.observed().groups().contains(grant.group()))
          .filter(account -> !account.grounds().containsKey(grant.group()))
          .ifPresent(
              account -> {
                var grounds = new TreeMap<>(account.grounds());
                grounds.put(grant.group(), "grant " + grant.id());
                accounts.put(session, account.grounds(grounds));
              });
    }
  }

  /** Whoever got it meanwhile, or has another there, keeps what they have. */
  private Deed linked(StatelessSession session, ChangeSet set, PersonId id, long number) {
    var account = accounts.get(session, number).orElseThrow();
    var isFree =
        account.person() == null && accounts.existing(session, id, account.application()).isEmpty();
    if (isFree) {
      accounts.forgetApart(session, account, id);
      accounts.put(session, account.of(id).leftAlone(null));
    }
    return Deed.of(
        set.createdBy(),
        "%s account %d of %s (change set %d)"
            .formatted(isFree ? "linked" : "did not link", number, account.application(), set.id()),
        id);
  }

  private Deed unlinked(StatelessSession session, ChangeSet set, PersonId id, long number) {
    var account = accounts.get(session, number).orElseThrow();
    if (id.equals(account.person())) {
      accounts.keepApart(session, account, id);
      accounts.put(session, account.of(null));
    }
    return Deed.of(
        set.createdBy(),
        "unlinked account %d of %s (change set %d)"
            .formatted(number, account.application(), set.id()),
        id);
  }

  /** Keeps what follows from people's inputs: who they are, their logins, the next instant. */
  private void keep(StatelessSession session, List<Evaluated> evaluated) {
    var held =
        logins.of(session, evaluated.stream().map(one -> one.subject().person().id()).toList());
    var scheme = schemes.inForce(session);
    LoginScheme.Texts texts = evaluator.expressions()::textOfPerson;
    for (var person : evaluated) {
      var id = person.subject().person().id();
      var login = person.subject().login();
      if (login != null && !login.equals(held.getOrDefault(id, Logins.Held.NONE).current())) {
        var isFound = !scheme.fits(login, person.subject().person(), texts);
        logins.allocate(session, id, login, isFound, scheme.number(), clock.instant());
      }
    }
    people.keep(session, evaluated.stream().map(Evaluated::resolved).toList(), searchable(session));
  }

  private Set<String> searchable(StatelessSession session) {
    return attributes.catalogue(session).all().stream()
        .filter(attribute -> attribute.own() && attribute.searchable())
        .map(Attribute::name)
        .collect(Collectors.toSet());
  }

  private ChangeSet finish(StatelessSession session, ChangeSet set) {
    changeSets.endPart(session, set.id());
    var current = get(session, set.id());
    var left = new HashSet<>(changes.peopleProposed(session, set.id(), null, 1));
    left.addAll(changeSets.nextPeople(session, set.id(), null, 1));
    var state = left.isEmpty() ? SetState.RELEASED : SetState.SHOWN;
    var beyond =
        isByItself(current)
            ? beyondByItself(session, current)
            : Collections.<String, Long>emptySortedMap();
    beyond.forEach(
        (rule, count) -> journal.write(session, clock.instant(), keptBack(current, rule, count)));
    var done =
        written(
            session,
            current
                .in(state, current.releasedBy(), current.releasedAt())
                .remarked(beyond.entrySet().stream().map(Releases::beyond).toList()));
    if (state == SetState.RELEASED) {
      noteTakenBack(session, done);
      aftermaths.forEach(after -> after.released(session, done));
    }
    return done;
  }

  /** Taking back a taking back lets the first set through again. */
  private void noteTakenBack(StatelessSession session, ChangeSet set) {
    if (set.takesBack() == null) {
      return;
    }
    var first = get(session, set.takesBack());
    written(session, first.takenBack(set.id()));
    if (first.takesBack() != null) {
      written(session, get(session, first.takesBack()).takenBack(null));
    }
  }

  private ChangeSet written(StatelessSession session, ChangeSet set) {
    if (!changeSets.update(session, set)) {
      throw new Refusal(Refusal.Kind.STALE, stale(set));
    }
    return get(session, set.id());
  }

  private ChangeSet shown(StatelessSession session, long id, Long version) {
    var set = get(session, id);
    if (version != null && set.version() != version) {
      throw new Refusal(Refusal.Kind.STALE, stale(set));
    }
    if (set.state() != SetState.SHOWN) {
      throw Refusal.conflict(
          new Problem(
              "change-set-not-shown",
              "Change set %d is %s.".formatted(id, set.state().word()),
              "Only what is shown can be released or discarded.",
              "See: ebb changes show %d".formatted(id),
              null));
    }
    return set;
  }

  private ChangeSet get(StatelessSession session, long id) {
    return changeSets
        .get(session, id)
        .orElseThrow(() -> Refusal.notFound("change set", id, "See: ebb changes list"));
  }

  private static Problem stale(ChangeSet set) {
    return new Problem(
        "change-set-changed",
        "Change set %d has changed since you looked at it; it is %s now."
            .formatted(set.id(), set.state().word()),
        "Somebody else released or discarded it, or it was computed anew.",
        "Look at it again: ebb changes show %d".formatted(set.id()),
        null);
  }
}
