package ebb.core.rule;

import ebb.core.application.Level;
import ebb.core.application.Value;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Supplier;

/**
 * What each application should hold for a person: a pure function of inputs, facts and an instant.
 * The order in which rules and grants are given makes no difference; where two rules fill one
 * attribute, the rule whose name sorts first wins.
 */
public final class Desire {
  private static final String MANAGER = "manager";

  private final List<Rule> rules;
  private final Expressions expressions;
  private final ZoneId organisation;
  private final boolean readsManager;

  public Desire(List<Rule> rules, Expressions expressions, ZoneId organisation) {
    this.rules = rules.stream().sorted(Comparator.comparing(Rule::name)).toList();
    this.expressions = expressions;
    this.organisation = organisation;
    this.readsManager = rules.stream().anyMatch(Desire::readsManager);
  }

  /** By application; an application that is missing is one the person is not entitled to. */
  public SortedMap<String, DesiredAccount> of(Subject subject, Facts facts, Instant instant) {
    var accounts = new TreeMap<String, DesiredAccount>();
    var stage = subject.person().stage(instant, organisation);
    var variables = variables(subject, facts, readsManager);
    for (var rule : rules) {
      account(rule, subject, stage, instant, variables)
          .ifPresent(account -> accounts.merge(rule.application(), account, Desire::joined));
    }
    addGrants(subject, stage, instant, accounts);
    if (subject.stopped()) {
      accounts.replaceAll((application, _) -> stopped(application));
    }
    return accounts;
  }

  /** What an emergency stop makes of an account, whatever else is said of it. */
  public static DesiredAccount stopped(String application) {
    return DesiredAccount.suspended(application, DesiredAccount.EMERGENCY_STOP);
  }

  /** What a condition comes to for somebody; nothing is said of when. */
  public Expressions.Verdict verdict(String condition, Subject subject, Facts facts) {
    return expressions.verdict(
        condition, variables(subject, facts, condition.contains(MANAGER + ".")));
  }

  /** The instants at which something changes for this person with no input, past ones too. */
  public SortedSet<Instant> turningPoints(Subject subject) {
    var points = new TreeSet<>(subject.person().turningPoints(organisation));
    var zone = subject.person().zone(organisation);
    subject
        .person()
        .date(Attributes.START_DATE)
        .ifPresent(
            start ->
                rules.forEach(
                    rule ->
                        points.add(
                            start.minusDays(rule.leadDays()).atStartOfDay(zone).toInstant())));
    for (var grant : subject.grants()) {
      points.add(grant.from().atStartOfDay(zone).toInstant());
      if (grant.until() != null) {
        points.add(grant.until().plusDays(1).atStartOfDay(zone).toInstant());
      }
    }
    return points;
  }

  private Optional<DesiredAccount> account(
      Rule rule, Subject subject, Stage stage, Instant instant, Map<String, Object> variables) {
    return switch (stage) {
      case DEPARTED -> Optional.of(DesiredAccount.suspended(rule.application(), "departed"));
      case AWAY ->
          matching(rule, variables, () -> DesiredAccount.suspended(rule.application(), "away"));
      case EXPECTED ->
          isWithinLead(rule, subject.person(), instant)
              ? matching(rule, variables, () -> filled(rule, Level.PREPARED, subject, variables))
              : Optional.empty();
      case PRESENT, LEAVING ->
          matching(rule, variables, () -> filled(rule, Level.ACTIVE, subject, variables));
    };
  }

  private Optional<DesiredAccount> matching(
      Rule rule, Map<String, Object> variables, Supplier<DesiredAccount> account) {
    return expressions.holds(rule.condition(), variables)
        ? Optional.of(account.get())
        : Optional.empty();
  }

  private boolean isWithinLead(Rule rule, Person person, Instant instant) {
    var today = LocalDate.ofInstant(instant, person.zone(organisation));
    var start = person.date(Attributes.START_DATE).orElse(today);
    return !today.isBefore(start.minusDays(rule.leadDays()));
  }

  private DesiredAccount filled(
      Rule rule, Level level, Subject subject, Map<String, Object> variables) {
    var values = new TreeMap<String, Grounded<Value>>();
    rule.values()
        .forEach(
            (attribute, mapping) ->
                values.put(
                    attribute,
                    new Grounded<>(Value.of(expressions.texts(mapping, variables)), rule.name())));
    rule.references()
        .forEach(
            (attribute, personAttribute) ->
                values.put(
                    attribute,
                    new Grounded<>(reference(subject.person(), personAttribute), rule.name())));
    var groups = new TreeMap<String, String>();
    rule.groups().forEach(group -> groups.put(group, rule.name()));
    var seats = new TreeMap<String, String>();
    if (rule.seat() != null) {
      seats.put(rule.seat(), rule.name());
    }
    return new DesiredAccount(rule.application(), level, rule.name(), values, groups, seats);
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

  private void addGrants(
      Subject subject, Stage stage, Instant instant, SortedMap<String, DesiredAccount> accounts) {
    var today = LocalDate.ofInstant(instant, subject.person().zone(organisation));
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

  private static Map<String, Object> variables(Subject subject, Facts facts, boolean readsManager) {
    var variables = new HashMap<String, Object>();
    variables.put("person", nested(subject.person()));
    variables.put("login", subject.login() == null ? "" : subject.login());
    variables.put("aliases", subject.aliases());
    variables.put(
        MANAGER,
        readsManager
            ? subject.person().manager().flatMap(facts::person).map(Desire::nested).orElse(Map.of())
            : Map.of());
    return variables;
  }

  private static boolean readsManager(Rule rule) {
    return rule.condition().contains(MANAGER + ".")
        || rule.values().values().stream().anyMatch(mapping -> mapping.contains(MANAGER + "."));
  }

  /** name.givenName becomes person.name.givenName in an expression. */
  private static Map<String, Object> nested(Person person) {
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
