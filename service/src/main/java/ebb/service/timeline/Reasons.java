package ebb.service.timeline;

import ebb.api.HeldGroupView;
import ebb.api.HeldValueView;
import ebb.api.WhyView;
import ebb.core.application.GroupMark;
import ebb.core.application.Value;
import ebb.core.compare.HeldAccount;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import ebb.core.problem.Where;
import ebb.core.rule.DesiredAccount;
import ebb.core.rule.Rule;
import ebb.core.rule.Unclear;
import ebb.core.rule.WhyNot;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.store.applications.Account;
import ebb.store.applications.GroupMarks;
import ebb.store.applications.Groups;
import ebb.store.people.Grants;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import ebb.store.rules.Rules;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Says why a person holds what they hold, and what is missing for what they do not. */
@Component
final class Reasons {
  private static final int RULES_TOLD = 5;

  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Rules rules;
  private final Grants grants;
  private final People people;
  private final Groups groups;
  private final GroupMarks marks;

  Reasons(
      BusinessClock clock,
      Evaluator evaluator,
      Rules rules,
      Grants grants,
      People people,
      Groups groups,
      GroupMarks marks) {
    this.groups = groups;
    this.marks = marks;
    this.clock = clock;
    this.evaluator = evaluator;
    this.rules = rules;
    this.grants = grants;
    this.people = people;
  }

  /** One for each application that has a rule, or in which the person has an account. */
  List<WhyView> of(StatelessSession session, StoredPerson stored) {
    var id = stored.person().id();
    var evaluated = evaluator.evaluate(session, List.of(id)).getFirst();
    var rules =
        this.rules.inForce(session).stream()
            .collect(Collectors.groupingBy(Rule::application, TreeMap::new, Collectors.toList()));
    var given = grants.of(session, List.of(id)).getOrDefault(id, List.of());
    var accounts =
        evaluated.accounts().stream()
            .collect(Collectors.toMap(Account::application, one -> one, (one, _) -> one));
    var names = new TreeSet<>(rules.keySet());
    names.addAll(accounts.keySet());
    return names.stream()
        .map(
            name ->
                why(
                    session,
                    name,
                    stored.person(),
                    rules.getOrDefault(name, List.of()),
                    Optional.ofNullable(evaluated.desired().accounts().get(name)),
                    evaluated.desired().unclear().stream()
                        .filter(one -> one.application().equals(name))
                        .toList(),
                    Optional.ofNullable(accounts.get(name)),
                    given))
        .toList();
  }

  private WhyView why(
      StatelessSession session,
      String application,
      Person person,
      List<Rule> rules,
      Optional<DesiredAccount> desired,
      List<Unclear> unclear,
      Optional<Account> account,
      List<Grant> given) {
    var stage = person.stage(clock.instant(), clock.zone());
    var isKeptOut = desired.filter(Reasons::isKeptOut).isPresent();
    var rule =
        rules.stream()
            .filter(_ -> !isKeptOut)
            .filter(one -> desired.filter(is -> is.ground().equals(one.name())).isPresent())
            .findFirst()
            .or(() -> rules.stream().filter(_ -> !isKeptOut).findFirst());
    return new WhyView(
        application,
        account.map(AccountViews::view).orElse(null),
        desired.map(one -> one.level().word()).orElse(null),
        rule.map(Rule::name).orElse(null),
        rule.map(Rule::condition).orElse(null),
        unclear.isEmpty()
            ? because(application, person, stage, rules, rule, desired, account)
            : unclear(unclear),
        desired.map(one -> values(session, one, rules, account)).orElse(List.of()),
        groups(session, application, desired, account, given),
        seats(desired, account, given));
  }

  private String because(
      String application,
      Person person,
      Stage stage,
      List<Rule> rules,
      Optional<Rule> rule,
      Optional<DesiredAccount> desired,
      Optional<Account> account) {
    if (desired.filter(DesiredAccount::isStopped).isPresent()) {
      return "An emergency stop shuts them out, whatever any rule says, until it is lifted.";
    }
    if (desired.filter(Reasons::isKeptOut).isPresent()) {
      return "An operator suspended them: what they hold here waits until they are brought back.";
    }
    if (rule.isEmpty()) {
      return "No rule gives anybody an account in %s; this one was found there."
          .formatted(application);
    }
    var name = rule.get().name();
    return switch (stage) {
      case DEPARTED ->
          account.isEmpty()
              ? "They have departed, and have no account here."
              : "They have departed: the account is suspended, and its closing goes by its gates.";
      case AWAY -> "They are on leave: the account is suspended until they return.";
      case EXPECTED ->
          desired.isPresent()
              ? "Rule %s gives it, ahead of the first day: it is prepared and cannot be used yet."
                  .formatted(name)
              : notYet(person, rule.get());
      case PRESENT, LEAVING ->
          desired.isPresent()
              ? "Rule %s gives it, because its condition is true of them.".formatted(name)
              : rules.stream()
                  .limit(RULES_TOLD)
                  .map(one -> notEntitled(person, one))
                  .collect(Collectors.joining(" "));
    };
  }

  /** By an operator, whatever any rule says. */
  private static boolean isKeptOut(DesiredAccount desired) {
    return desired.isStopped() || desired.ground().startsWith(Suspension.GROUND);
  }

  private static String unclear(List<Unclear> unclear) {
    return unclear.stream()
            .map(
                one ->
                    "The %s of rule %s cannot be computed for them: %s."
                        .formatted(one.field(), one.rule(), one.why()))
            .collect(Collectors.joining(" "))
        + " What depends on it stays as it is until the rule, or what it reads, is put right.";
  }

  /** What is missing, as far as the condition can be taken apart. */
  private String notEntitled(Person person, Rule rule) {
    var today = LocalDate.ofInstant(clock.instant(), person.zone(clock.zone()));
    if (rule.from() != null) {
      var first = rule.from().of(person);
      if (first.isEmpty()) {
        return "Rule %s gives it from a day on that counts from their %s, which they have not."
            .formatted(rule.name(), rule.from().attribute());
      }
      if (today.isBefore(first.get())) {
        return "Not yet: rule %s gives it from %s, if its condition is true."
            .formatted(rule.name(), first.get());
      }
    }
    var last = Optional.ofNullable(rule.until()).flatMap(until -> until.of(person));
    if (last.filter(today::isAfter).isPresent()) {
      return "Rule %s gave it until %s.".formatted(rule.name(), last.get());
    }
    var condition = evaluator.expressions().condition(rule.condition(), Where.field(rule.name()));
    var missing = WhyNot.of(condition, person);
    return missing.isEmpty()
        ? "They are not entitled: the condition of rule %s is not true of them."
            .formatted(rule.name())
        : "They are not entitled by rule %s: their %s."
            .formatted(rule.name(), String.join("; and their ", missing));
  }

  private static String notYet(Person person, Rule rule) {
    return person
        .date(Attributes.START_DATE)
        .map(
            start ->
                "Not yet: rule %s prepares it from %s, %d days before the first day, if its condition is true."
                    .formatted(rule.name(), start.minusDays(rule.leadDays()), rule.leadDays()))
        .orElse("Not yet.");
  }

  private List<HeldValueView> values(
      StatelessSession session,
      DesiredAccount desired,
      List<Rule> rules,
      Optional<Account> account) {
    var names = names(session, desired);
    var values = new ArrayList<HeldValueView>();
    desired
        .values()
        .forEach(
            (attribute, grounded) ->
                values.add(
                    new HeldValueView(
                        attribute,
                        grounded.ground(),
                        rules.stream()
                            .filter(rule -> rule.name().equals(grounded.ground()))
                            .map(rule -> expression(rule, attribute))
                            .findFirst()
                            .orElse(null),
                        should(grounded.value(), names),
                        account
                            .map(one -> is(one, attribute, grounded.value(), names))
                            .orElse(null))));
    return values;
  }

  private static String expression(Rule rule, String attribute) {
    return rule.values().containsKey(attribute)
        ? rule.values().get(attribute)
        : "account of person." + rule.references().get(attribute);
  }

  private Map<PersonId, String> names(StatelessSession session, DesiredAccount desired) {
    Set<PersonId> referred =
        desired.values().values().stream()
            .map(grounded -> grounded.value())
            .filter(Value::isReference)
            .map(Value::accountOf)
            .collect(Collectors.toSet());
    return referred.isEmpty() ? Map.of() : people.displayNames(session, referred);
  }

  private static String should(Value value, Map<PersonId, String> names) {
    return value.isReference()
        ? names.getOrDefault(value.accountOf(), value.toString())
        : String.join(", ", value.texts());
  }

  /**
   * Accounts are referred to by their application's own identifiers, which tell nobody anything.
   */
  private static String is(
      Account account, String attribute, Value should, Map<PersonId, String> names) {
    var texts = account.observed().texts(attribute);
    return should.isReference() && !texts.isEmpty()
        ? should(should, names)
        : String.join(", ", texts);
  }

  private List<HeldGroupView> groups(
      StatelessSession session,
      String application,
      Optional<DesiredAccount> desired,
      Optional<Account> account,
      List<Grant> given) {
    var grounds = new TreeMap<String, String>();
    account.ifPresent(
        one ->
            one.observed().groups().forEach(group -> grounds.put(group, one.grounds().get(group))));
    desired.ifPresent(one -> grounds.putAll(one.groups()));
    var through = groups.nesting(session, application).around(grounds.keySet());
    var names = new TreeSet<>(grounds.keySet());
    names.addAll(through.keySet());
    var said = marks.of(session, names);
    return names.stream()
        .map(
            name -> {
              var by = through.getOrDefault(name, name);
              return held(
                  name,
                  by,
                  words(grounds.get(by), given),
                  account,
                  Optional.ofNullable(said.get(name)));
            })
        .toList();
  }

  private static HeldGroupView held(
      String group, String by, String ground, Optional<Account> account, Optional<GroupMark> mark) {
    return new HeldGroupView(
        group,
        ground,
        account.filter(one -> one.observed().groups().contains(by)).isPresent(),
        by.equals(group) ? null : by,
        mark.map(GroupMark::risk).map(GroupMark.Risk::word).orElse(null),
        mark.map(GroupMark::scope).orElse(null));
  }

  private static List<HeldGroupView> seats(
      Optional<DesiredAccount> desired, Optional<Account> account, List<Grant> given) {
    var grounds = new TreeMap<String, String>();
    account.ifPresent(
        one ->
            one.observed()
                .seats()
                .forEach(seat -> grounds.put(seat, one.grounds().get(HeldAccount.seat(seat)))));
    desired.ifPresent(one -> grounds.putAll(one.seats()));
    return grounds.entrySet().stream()
        .map(
            one ->
                new HeldGroupView(
                    one.getKey(),
                    words(one.getValue(), given),
                    account
                        .filter(held -> held.observed().seats().contains(one.getKey()))
                        .isPresent(),
                    null,
                    null,
                    null))
        .toList();
  }

  private static String words(String ground, List<Grant> given) {
    return given.stream()
        .filter(grant -> ("grant " + grant.id()).equals(ground))
        .findFirst()
        .map(grant -> "given by hand: " + grant.reason())
        .orElse(ground == null ? null : "rule " + ground);
  }
}
