package ebb.core.rule;

import ebb.core.application.Level;
import ebb.core.application.Value;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * What each application should hold for a person: a pure function of inputs, facts and an instant.
 * The order in which rules and grants are given makes no difference; where two rules fill one
 * attribute, the rule whose name sorts first wins.
 */
public final class Desire {
  private static final String MANAGER = "manager";
  private static final String UNITS = "units";

  private final List<Rule> rules;
  private final Expressions expressions;
  private final ZoneId organisation;
  private final boolean readsManager;
  private final boolean readsUnits;

  public Desire(List<Rule> rules, Expressions expressions, ZoneId organisation) {
    this.rules = rules.stream().sorted(Comparator.comparing(Rule::name)).toList();
    this.expressions = expressions;
    this.organisation = organisation;
    this.readsManager = rules.stream().anyMatch(rule -> rule.reads(MANAGER));
    this.readsUnits = rules.stream().anyMatch(rule -> rule.reads(UNITS));
  }

  public Desired of(Subject subject, Facts facts, Instant instant) {
    return new Computation(subject, facts, instant).desired();
  }

  /** What an emergency stop makes of an account, whatever else is said of it. */
  public static DesiredAccount stopped(String application) {
    return DesiredAccount.suspended(application, DesiredAccount.EMERGENCY_STOP);
  }

  /** What a condition comes to for somebody; nothing is said of when. */
  public Expressions.Verdict verdict(String condition, Subject subject, Facts facts) {
    return expressions.verdict(condition, variables(subject, facts, true, true));
  }

  /** The instants at which something changes for this person with no input, past ones too. */
  public SortedSet<Instant> turningPoints(Subject subject) {
    var points = new TreeSet<>(subject.person().turningPoints(organisation));
    var zone = subject.person().zone(organisation);
    rules.forEach(
        rule ->
            days(rule, subject.person())
                .forEach(day -> points.add(day.atStartOfDay(zone).toInstant())));
    Stream.concat(
            subject.grants().stream().flatMap(grant -> ends(grant.from(), grant.until())),
            subject.suspensions().stream().flatMap(one -> ends(one.from(), one.until())))
        .forEach(day -> points.add(day.atStartOfDay(zone).toInstant()));
    return points;
  }

  /** The first day on which it holds, and the first on which it does not any more. */
  private static Stream<LocalDate> ends(LocalDate from, LocalDate until) {
    return until == null ? Stream.of(from) : Stream.of(from, until.plusDays(1));
  }

  /** The days on which something of a rule begins or is over. */
  private static Stream<LocalDate> days(Rule rule, Person person) {
    return Stream.of(
            person.date(Attributes.START_DATE).map(start -> start.minusDays(rule.leadDays())),
            day(rule.from(), person),
            day(rule.until(), person).map(last -> last.plusDays(1)))
        .flatMap(Optional::stream);
  }

  private static Optional<LocalDate> day(Bound bound, Person person) {
    return Optional.ofNullable(bound).flatMap(one -> one.of(person));
  }

  /** One subject at one instant. */
  private final class Computation {
    private final Subject subject;
    private final Stage stage;
    private final LocalDate today;
    private final Map<String, Object> variables;
    private final SortedMap<String, DesiredAccount> accounts = new TreeMap<>();
    private final List<Unclear> unclear = new ArrayList<>();
    private final Set<String> leftAlone = new HashSet<>();

    Computation(Subject subject, Facts facts, Instant instant) {
      this.subject = subject;
      this.stage = subject.person().stage(instant, organisation);
      this.today = LocalDate.ofInstant(instant, subject.person().zone(organisation));
      this.variables = variables(subject, facts, readsManager, readsUnits);
    }

    Desired desired() {
      for (var rule : rules) {
        account(rule)
            .ifPresent(account -> accounts.merge(rule.application(), account, Desire::joined));
      }
      addGrants(subject, stage, today, accounts);
      accounts.keySet().removeAll(leftAlone);
      suspend();
      if (subject.stopped()) {
        accounts.replaceAll((application, _) -> stopped(application));
        unclear.forEach(one -> accounts.put(one.application(), stopped(one.application())));
      }
      return new Desired(accounts, List.copyOf(unclear));
    }

    /** Whoever is off for another reason as well stays so for that one. */
    private void suspend() {
      for (var suspension : inForce()) {
        accounts.replaceAll(
            (application, account) ->
                suspension.covers(application) && account.level() != Level.SUSPENDED
                    ? DesiredAccount.suspended(application, suspension.ground())
                    : account);
        // What cannot be computed is no way past it.
        leftAlone.stream()
            .filter(suspension::covers)
            .forEach(
                application ->
                    accounts.putIfAbsent(
                        application, DesiredAccount.suspended(application, suspension.ground())));
      }
    }

    private List<Suspension> inForce() {
      return subject.suspensions().stream()
          .filter(one -> one.isInForceOn(today))
          .sorted(Comparator.comparingLong(Suspension::id))
          .toList();
    }

    private Optional<DesiredAccount> account(Rule rule) {
      return switch (stage) {
        case DEPARTED -> Optional.of(DesiredAccount.suspended(rule.application(), "departed"));
        case AWAY -> matching(rule, () -> DesiredAccount.suspended(rule.application(), "away"));
        case EXPECTED ->
            isWithinLead(rule)
                ? matching(rule, () -> filled(rule, Level.PREPARED))
                : Optional.empty();
        case PRESENT, LEAVING -> matching(rule, () -> filled(rule, Level.ACTIVE));
      };
    }

    private Optional<DesiredAccount> matching(Rule rule, Supplier<DesiredAccount> account) {
      return isOpen(rule) && holds(rule, rule.condition(), Rule.CONDITION)
          ? Optional.of(account.get())
          : Optional.empty();
    }

    private boolean isWithinLead(Rule rule) {
      var start = subject.person().date(Attributes.START_DATE).orElse(today);
      return !today.isBefore(start.minusDays(rule.leadDays()));
    }

    private boolean isOpen(Rule rule) {
      var person = subject.person();
      return (rule.from() == null
              || day(rule.from(), person).filter(first -> !today.isBefore(first)).isPresent())
          && day(rule.until(), person).filter(today::isAfter).isEmpty();
    }

    /** What does not depend on it stays as it is, but with this application nothing is done. */
    private boolean holds(Rule rule, String condition, String field) {
      try {
        return expressions.holds(condition, variables);
      } catch (Expressions.Failed e) {
        add(rule, field, e);
        leftAlone.add(rule.application());
        return false;
      }
    }

    private void add(Rule rule, String field, Expressions.Failed failed) {
      unclear.add(new Unclear(rule.application(), rule.name(), field, failed.getMessage()));
    }

    private DesiredAccount filled(Rule rule, Level level) {
      var groups = new TreeMap<String, String>();
      rule.groups().forEach(group -> groups.put(group, rule.name()));
      var seats = new TreeMap<String, String>();
      seat(rule).ifPresent(seat -> seats.put(seat, rule.name()));
      return new DesiredAccount(
          rule.application(), level, rule.name(), values(rule), groups, seats);
    }

    private SortedMap<String, Grounded<Value>> values(Rule rule) {
      var values = new TreeMap<String, Grounded<Value>>();
      rule.values()
          .forEach(
              (attribute, mapping) -> {
                try {
                  var texts = expressions.texts(mapping, variables);
                  values.put(attribute, new Grounded<>(Value.of(texts), rule.name()));
                } catch (Expressions.Failed e) {
                  add(rule, attribute, e);
                }
              });
      rule.references()
          .forEach(
              (attribute, personAttribute) ->
                  values.put(
                      attribute,
                      new Grounded<>(reference(subject.person(), personAttribute), rule.name())));
      return values;
    }

    private Optional<String> seat(Rule rule) {
      return rule.seats().stream()
          .filter(
              choice ->
                  choice.condition() == null
                      || holds(rule, choice.condition(), "seats." + choice.seat()))
          .map(SeatChoice::seat)
          .findFirst();
    }
  }

  private static Value reference(Person person, String attribute) {
    return person
        .get(attribute)
        .map(id -> Value.accountOf(new PersonId(Long.parseLong(id))))
        .orElse(Value.NOTHING);
  }

  private static DesiredAccount joined(DesiredAccount first, DesiredAccount second) {
    var values = new TreeMap<>(second.values());
    values.putAll(first.values());
    var groups = new TreeMap<>(second.groups());
    groups.putAll(first.groups());
    var seats = new TreeMap<>(second.seats());
    seats.putAll(first.seats());
    return new DesiredAccount(
        first.application(), first.level(), first.ground(), values, groups, seats);
  }

  private static void addGrants(
      Subject subject, Stage stage, LocalDate today, SortedMap<String, DesiredAccount> accounts) {
    var open =
        subject.grants().stream()
            .filter(grant -> grant.isOpenOn(today))
            .sorted(Comparator.comparingLong(Grant::id))
            .toList();
    open.stream()
        .filter(grant -> grant.group() == null)
        .forEach(grant -> accounts.computeIfAbsent(grant.application(), _ -> given(grant, stage)));
    open.stream()
        .filter(grant -> grant.group() != null)
        .forEach(
            grant ->
                accounts.computeIfPresent(
                    grant.application(),
                    (_, account) -> {
                      if (account.level() != Level.SUSPENDED) {
                        account.groups().putIfAbsent(grant.group(), "grant " + grant.id());
                      }
                      return account;
                    }));
  }

  /** An account whose values nobody says: it is as its application keeps it. */
  private static DesiredAccount given(Grant grant, Stage stage) {
    return switch (stage) {
      case DEPARTED -> DesiredAccount.suspended(grant.application(), "departed");
      case AWAY -> DesiredAccount.suspended(grant.application(), "away");
      case EXPECTED -> bare(grant, Level.PREPARED);
      case PRESENT, LEAVING -> bare(grant, Level.ACTIVE);
    };
  }

  private static DesiredAccount bare(Grant grant, Level level) {
    return new DesiredAccount(
        grant.application(),
        level,
        "grant " + grant.id(),
        new TreeMap<>(),
        new TreeMap<>(),
        new TreeMap<>());
  }

  private static Map<String, Object> variables(
      Subject subject, Facts facts, boolean readsManager, boolean readsUnits) {
    var variables = new HashMap<String, Object>();
    variables.put("person", nested(subject.person()));
    variables.put("login", subject.login() == null ? "" : subject.login());
    variables.put("aliases", subject.aliases());
    variables.put(
        MANAGER,
        readsManager
            ? subject.person().manager().flatMap(facts::person).map(Desire::nested).orElse(Map.of())
            : Map.of());
    variables.put(
        UNITS,
        readsUnits
            ? subject.person().units().stream()
                .flatMap(unit -> facts.path(unit).stream())
                .distinct()
                .toList()
            : List.of());
    return variables;
  }

  /** name.givenName becomes person.name.givenName in an expression. */
  static Map<String, Object> nested(Person person) {
    var tree = new HashMap<String, Object>();
    person
        .attributes()
        .forEach(
            (attribute, held) -> {
              var dot = attribute.indexOf('.');
              if (dot < 0) {
                tree.put(attribute, held.value());
              } else {
                branch(tree, attribute.substring(0, dot))
                    .put(attribute.substring(dot + 1), held.value());
              }
            });
    tree.put(Attributes.DISPLAY_NAME, person.displayName());
    return tree;
  }

  @SuppressWarnings("unchecked")
  private static Map<String, Object> branch(Map<String, Object> tree, String name) {
    return (Map<String, Object>) tree.computeIfAbsent(name, _ -> new HashMap<String, Object>());
  }
}
