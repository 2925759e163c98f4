package ebb.service.sync;

import ebb.core.application.ObservedAccount;
import ebb.core.imports.Likeness;
import ebb.core.name.LoginScheme;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.service.connections.SettingsCheck;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.people.Logins;
import ebb.store.people.People;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import ebb.store.people.StoredPerson;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Finds whose accounts are: by what Ebb left in them, then by the application's rules. Those that
 * only look like somebody's are offered, and never taken.
 */
@Component
final class AccountMatching {
  /** Before an attribute of people, in settings that say how an account gives it. */
  private static final String RULE = SettingsCheck.MATCH;

  private static final Pattern ORIGIN = Pattern.compile("ebb-(\\d{1,18})");
  private static final String LOGIN = LoginScheme.ATTRIBUTE;
  private static final int SAME_LOGIN = 50;

  /** So many are shown to whoever decides. */
  private static final int MOST_LIKELY = 5;

  private final Evaluator evaluator;
  private final Accounts accounts;
  private final People people;
  private final PeopleLists lists;
  private final Logins logins;
  private final BusinessClock clock;

  AccountMatching(
      Evaluator evaluator,
      Accounts accounts,
      People people,
      PeopleLists lists,
      Logins logins,
      BusinessClock clock) {
    this.evaluator = evaluator;
    this.accounts = accounts;
    this.people = people;
    this.lists = lists;
    this.logins = logins;
    this.clock = clock;
  }

  /**
   * Somebody whose account one may be.
   *
   * @param why in words: the rule, or in what they are alike
   * @param account what they have there already; null if nothing
   */
  record Candidate(StoredPerson person, List<String> why, Account account) {}

  /**
   * The people to whom these accounts belong, by the ids of the accounts. Whoever has an account
   * there already, or would get two, is left out.
   */
  Map<String, PersonId> owners(
      StatelessSession session,
      String application,
      Map<String, String> settings,
      Collection<ObservedAccount> strangers) {
    var named = named(session, application, settings, strangers);
    if (named.isEmpty()) {
      return Map.of();
    }
    var existing = accounts.of(session, new HashSet<>(named.values()));
    var real = people.getAll(session, new HashSet<>(named.values())).keySet();
    var taken = new HashSet<PersonId>();
    var owners = new HashMap<String, PersonId>();
    named.forEach(
        (account, person) -> {
          var hasOne =
              existing.getOrDefault(person, List.of()).stream()
                  .anyMatch(one -> one.application().equals(application) && one.level().exists());
          if (!hasOne && real.contains(person) && taken.add(person)) {
            owners.put(account, person);
          }
        });
    return owners;
  }

  /** By the order of the accounts' ids, so that twice the same comes out. */
  private SortedMap<String, PersonId> named(
      StatelessSession session,
      String application,
      Map<String, String> settings,
      Collection<ObservedAccount> strangers) {
    var named = new TreeMap<String, PersonId>();
    var left = new ArrayList<ObservedAccount>();
    for (var account : strangers) {
      origin(account)
          .ifPresentOrElse(person -> named.put(account.id(), person), () -> left.add(account));
    }
    for (var setting : settings.entrySet()) {
      if (setting.getKey().startsWith(RULE) && !left.isEmpty()) {
        var attribute = setting.getKey().substring(RULE.length());
        named.putAll(byRule(session, attribute, setting.getValue(), left));
        left.removeIf(account -> named.containsKey(account.id()));
      }
    }
    accounts
        .apart(session, application, named.keySet())
        .forEach(
            (account, people) -> {
              if (people.contains(named.get(account))) {
                named.remove(account);
              }
            });
    return named;
  }

  private static Optional<PersonId> origin(ObservedAccount account) {
    return Optional.ofNullable(account.externalId())
        .map(ORIGIN::matcher)
        .filter(matcher -> matcher.matches())
        .map(matcher -> new PersonId(Long.parseLong(matcher.group(1))));
  }

  private Map<String, PersonId> byRule(
      StatelessSession session,
      String attribute,
      String expression,
      List<ObservedAccount> strangers) {
    var values = new HashMap<String, String>();
    for (var account : strangers) {
      evaluator
          .expressions()
          .textOfAccount(expression, texts(account))
          .filter(value -> !value.isBlank())
          .ifPresent(value -> values.put(account.id(), value));
    }
    var found = new HashMap<String, PersonId>();
    if (attribute.equals(LOGIN)) {
      var owners = logins.owners(session, new HashSet<>(values.values()));
      values.forEach(
          (account, value) ->
              Optional.ofNullable(owners.get(value))
                  .ifPresent(person -> found.put(account, person)));
    } else {
      values.forEach(
          (account, value) ->
              having(session, attribute, value).ifPresent(person -> found.put(account, person)));
    }
    return found;
  }

  /** The only one of whom this is said; two are nobody. */
  private Optional<PersonId> having(StatelessSession session, String attribute, String value) {
    var filter =
        PeopleFilter.knows(attribute)
            ? PeopleFilter.compare(attribute, "=", value)
            : PeopleFilter.compareOwn(attribute, "=", value);
    var found = lists.list(session, filter, PeopleOrder.NAME, null, 2).items();
    return found.size() == 1 ? Optional.of(found.getFirst().person().id()) : Optional.empty();
  }

  /** Whose an account may be, likeliest first. */
  List<Candidate> candidates(
      StatelessSession session, Account account, Map<String, String> settings) {
    return candidates(session, List.of(account), settings).getOrDefault(account.id(), List.of());
  }

  /** Whose accounts of one application may be, by their numbers; none where nobody is like them. */
  Map<Long, List<Candidate>> candidates(
      StatelessSession session, Collection<Account> all, Map<String, String> settings) {
    var observed = all.stream().map(Account::observed).toList();
    if (all.isEmpty()) {
      return Map.of();
    }
    var application = all.iterator().next().application();
    var named = named(session, application, settings, observed);
    var apart =
        accounts.apart(session, application, observed.stream().map(ObservedAccount::id).toList());
    var likely = new HashMap<Long, List<PersonId>>();
    var sameLogin = new HashMap<Long, PersonId>();
    var others = all.stream().filter(one -> !named.containsKey(one.observed().id())).toList();
    var clues = new HashMap<Long, SortedSet<Long>>();
    others.forEach(one -> clues.put(one.id(), Likeness.clues(texts(one.observed()))));
    var having =
        people.byClues(
            session, clues.values().stream().flatMap(Set::stream).collect(Collectors.toSet()));
    var owners =
        logins.owners(
            session,
            others.stream()
                .flatMap(one -> names(texts(one.observed())).stream())
                .collect(Collectors.toSet()));
    for (var one : others) {
      var who = new LinkedHashSet<PersonId>();
      names(texts(one.observed())).stream()
          .map(owners::get)
          .filter(Objects::nonNull)
          .forEach(
              owner -> {
                who.add(owner);
                sameLogin.put(one.id(), owner);
              });
      who.addAll(Likeness.likeliest(clues.get(one.id()), having));
      who.removeAll(apart.getOrDefault(one.observed().id(), Set.of()));
      likely.put(one.id(), List.copyOf(who));
    }
    var wanted = new HashSet<>(named.values());
    likely.values().forEach(wanted::addAll);
    var known =
        people.all(session, wanted).stream()
            .collect(Collectors.toMap(one -> one.person().id(), one -> one));
    var theirs = accounts.of(session, known.keySet());
    var found = new HashMap<Long, List<Candidate>>();
    for (var one : all) {
      var byRule = known.get(named.get(one.observed().id()));
      found.put(
          one.id(),
          byRule != null
              ? List.of(candidate(one, byRule, List.of("the application says so"), theirs))
              : likely.getOrDefault(one.id(), List.of()).stream()
                  .filter(known::containsKey)
                  .map(known::get)
                  .flatMap(
                      person ->
                          alike(
                              one,
                              person,
                              person.person().id().equals(sameLogin.get(one.id())),
                              theirs)
                              .stream())
                  .sorted(Comparator.comparingInt(Scored::score).reversed())
                  .map(Scored::candidate)
                  .limit(MOST_LIKELY)
                  .toList());
    }
    return found;
  }

  /** By which somebody may be called who signs in with the account. */
  private static Set<String> names(Map<String, String> texts) {
    var names = new TreeSet<String>();
    for (var attribute : List.of(LOGIN, "emails.work")) {
      var text = texts.getOrDefault(attribute, "").toLowerCase(Locale.ROOT);
      names.add(text.replaceFirst("@.*", ""));
    }
    names.remove("");
    return names;
  }

  private record Scored(Candidate candidate, int score) {}

  /** Nothing is taken for granted here: a name alone is reason enough to offer somebody. */
  private Optional<Scored> alike(
      Account account,
      StoredPerson person,
      boolean sameLogin,
      Map<PersonId, List<Account>> theirs) {
    var departed = person.person().stage(clock.instant(), clock.zone()) == Stage.DEPARTED;
    var why = new ArrayList<String>();
    var score = 0;
    if (sameLogin) {
      why.add("the same login");
      score = SAME_LOGIN;
    }
    var near =
        Likeness.near(
            texts(account.observed()), new Likeness.Known(person.person(), false, false, departed));
    if (near.isPresent()) {
      why.addAll(near.get().reasons());
      score += near.get().score();
    }
    return why.isEmpty()
        ? Optional.empty()
        : Optional.of(new Scored(candidate(account, person, why, theirs), score));
  }

  private static Candidate candidate(
      Account account, StoredPerson person, List<String> why, Map<PersonId, List<Account>> theirs) {
    var there =
        theirs.getOrDefault(person.person().id(), List.of()).stream()
            .filter(one -> one.application().equals(account.application()))
            .filter(one -> one.level().exists())
            .findFirst();
    return new Candidate(person, why, there.orElse(null));
  }

  /** Attributes by the names people's attributes have; the first of several. */
  static Map<String, String> texts(ObservedAccount account) {
    var texts = new TreeMap<String, String>();
    account
        .values()
        .forEach(
            (name, values) -> {
              if (!values.isEmpty()) {
                texts.put(name, values.getFirst());
              }
            });
    return texts;
  }
}
