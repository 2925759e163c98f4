package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.change.Input;
import ebb.core.imports.KeyTable;
import ebb.core.imports.Print;
import ebb.core.imports.ValueCheck;
import ebb.core.name.LoginScheme;
import ebb.core.person.Assertions;
import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.people.Grants;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Makes people of accounts that are nobody's. What is said of them is what their accounts hold;
 * each is granted the account as it is, so that nothing changes there.
 */
@Component
final class Adoption {
  private static final String SOURCE = "found-in-";
  private static final String WHOLE_NAME = "name.formatted";

  private final Database database;
  private final People people;
  private final Sources sources;
  private final Grants grants;
  private final OwnAttributes own;
  private final BusinessClock clock;

  Adoption(
      Database database,
      People people,
      Sources sources,
      Grants grants,
      OwnAttributes own,
      BusinessClock clock) {
    this.database = database;
    this.people = people;
    this.sources = sources;
    this.grants = grants;
    this.own = own;
    this.clock = clock;
  }

  /**
   * What is said of all that are adopted together.
   *
   * @param userType null if that is not to be said
   * @param suspended whether they are away from today on, until somebody says otherwise
   */
  record As(String userType, boolean suspended) {}

  /**
   * @param problem why it cannot be adopted; null where it can
   */
  record Adopted(Account account, List<Input> inputs, Problem problem) {}

  /**
   * Says what makes people of accounts. The same account asked about twice is the same person.
   *
   * @param allowed looks at each new person, and refuses whom the operator may not have
   */
  List<Adopted> adopt(Application application, List<Account> all, As as, Consumer<Person> allowed) {
    var catalogue = database.read(own::catalogue);
    var source = SOURCE + application.name();
    var numbers = database.write(session -> numbers(session, source, all));
    var adopted = new ArrayList<Adopted>();
    for (var account : all) {
      var values = values(catalogue, account);
      var missing =
          catalogue.required().stream().filter(name -> !values.containsKey(name)).toList();
      if (!missing.isEmpty()) {
        adopted.add(new Adopted(account, List.of(), lacking(account, missing)));
        continue;
      }
      if (as.userType() != null) {
        values.put(Attributes.USER_TYPE, as.userType());
      }
      if (as.suspended()) {
        values.put(Attributes.AWAY_FROM, clock.today().toString());
      }
      adopted.add(
          adopted(application, account, numbers.get(account.id()), source, values, allowed));
    }
    return adopted;
  }

  private Adopted adopted(
      Application application,
      Account account,
      PersonId person,
      String source,
      Map<String, String> values,
      Consumer<Person> allowed) {
    var key = account.observed().id();
    var said = new Input.Assert(person, source, key, null, values);
    allowed.accept(person(person, source, values));
    var grant =
        new Grant(
            database.write(grants::number),
            person,
            application.name(),
            null,
            "found there",
            clock.today(),
            null,
            source);
    return new Adopted(
        account,
        List.of(said, new Input.Link(person, account.id()), new Input.Give(person, grant)),
        null);
  }

  private Person person(PersonId id, String source, Map<String, String> values) {
    var said = Assertions.none(id, source).with(values, null, clock.instant(), 0L);
    return Person.resolve(id, List.of(said), _ -> 0);
  }

  /** Numbers of people by the accounts they come from; kept, so that no account becomes two. */
  private Map<Long, PersonId> numbers(StatelessSession session, String source, List<Account> all) {
    var known = new KeyTable(0);
    sources.know(
        session, source, all.stream().map(account -> account.observed().id()).toList(), known);
    var numbers = new HashMap<Long, PersonId>();
    var fresh = new ArrayList<Account>();
    for (var account : all) {
      var number = known.person(Print.of(account.observed().id()));
      if (number == 0) {
        fresh.add(account);
      } else {
        numbers.put(account.id(), new PersonId(number));
      }
    }
    var next = new ArrayDeque<>(people.numbered(session, fresh.size()));
    var reserved = new HashMap<String, PersonId>();
    for (var account : fresh) {
      var number = next.pop();
      numbers.put(account.id(), number);
      reserved.put(account.observed().id(), number);
    }
    sources.reserve(session, source, reserved);
    return numbers;
  }

  /** What an account holds of what can be said of people, as far as it is fit to be said. */
  private static Map<String, String> values(Catalogue catalogue, Account account) {
    var held = AccountMatching.texts(account.observed());
    var check = new ValueCheck(catalogue, "uuuu-MM-dd");
    var values = new TreeMap<String, String>();
    for (var attribute : catalogue.all()) {
      var text = attribute.type() == Attribute.Type.PERSON ? null : held.get(attribute.name());
      if (text != null
          && !text.isBlank()
          && check.of(attribute.name(), text, Where.field(attribute.name()))
              instanceof ValueCheck.Good(var value)) {
        values.put(attribute.name(), value);
      } else if (attribute.fallback() != null) {
        values.put(attribute.name(), attribute.fallback());
      }
    }
    addNames(held, values);
    // An account called by nothing but its login says nobody's name.
    if (!values.containsKey(Attributes.GIVEN_NAME)
        && values
            .getOrDefault(Attributes.FAMILY_NAME, "")
            .equalsIgnoreCase(held.getOrDefault(LoginScheme.ATTRIBUTE, ""))) {
      values.remove(Attributes.FAMILY_NAME);
    }
    return values;
  }

  /** The last word of a whole name is the family's, where nothing says it better. */
  private static void addNames(Map<String, String> held, Map<String, String> values) {
    var whole =
        held.getOrDefault(
                Attributes.DISPLAY_NAME,
                held.getOrDefault(WHOLE_NAME, held.getOrDefault(LoginScheme.ATTRIBUTE, "")))
            .strip();
    var last = whole.lastIndexOf(' ');
    if (last > 0) {
      values.putIfAbsent(Attributes.GIVEN_NAME, whole.substring(0, last).strip());
      values.putIfAbsent(Attributes.FAMILY_NAME, whole.substring(last + 1));
    } else if (!whole.isEmpty() && !whole.equals(held.get(LoginScheme.ATTRIBUTE))) {
      // Who is called by one word has one name; a login is none.
      values.putIfAbsent(Attributes.FAMILY_NAME, whole);
    }
  }

  private static Problem lacking(Account account, List<String> missing) {
    return new Problem(
        "account-without-name",
        "%s does not say %s.".formatted(AccountViews.name(account), String.join(" and ", missing)),
        "Nobody can be created without that.",
        "Leave it alone if it is technical (ebb accounts leave-alone %1$d), or say whose it is (ebb accounts link %1$d PERSON)."
            .formatted(account.id()),
        null);
  }
}
