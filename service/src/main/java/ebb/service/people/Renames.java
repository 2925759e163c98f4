package ebb.service.people;

import ebb.api.RenameRequest;
import ebb.api.RenameView;
import ebb.api.RenameView.DerivedView;
import ebb.api.RenameView.KeyView;
import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.Desired;
import ebb.core.rule.DesiredAccount;
import ebb.core.rule.Subject;
import ebb.service.changes.Proposals;
import ebb.service.evaluation.Evaluator;
import ebb.service.evaluation.Evaluator.Renamed;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.people.LoginSchemes;
import ebb.store.people.Logins;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredPerson;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/**
 * New names as one event: what a person is called, how they sign in and what follows from that in
 * each application, before and after. The login they had stays theirs as an alias.
 */
@Component
final class Renames {
  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Proposals proposals;
  private final HandEdits edits;
  private final People people;
  private final Logins logins;
  private final LoginSchemes schemes;
  private final Sources sources;

  Renames(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      Proposals proposals,
      HandEdits edits,
      People people,
      Logins logins,
      LoginSchemes schemes,
      Sources sources) {
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.proposals = proposals;
    this.edits = edits;
    this.people = people;
    this.logins = logins;
    this.schemes = schemes;
    this.sources = sources;
  }

  /** What would follow; nothing is kept. */
  RenameView preview(PersonId id, RenameRequest request) {
    var person = edits.get(id);
    var inputs = inputs(person, request, _ -> {});
    return database.read(
        session -> {
          var renamed = evaluator.renamed(session, inputs.edit(), inputs.login());
          return new RenameView(
              derived(renamed),
              sources.keysOf(session, id).stream()
                  .map(key -> new KeyView(key.source(), key.key()))
                  .toList());
        });
  }

  /** Shows what it would change, as a set. */
  ChangeSet rename(
      PersonId id, RenameRequest request, Long version, String by, Consumer<Person> allowed) {
    var person = edits.get(id);
    edits.expect(person, version);
    var inputs = inputs(person, request, allowed);
    return proposals.propose(
        Cause.HAND, "rename of " + person.displayName(), by, null, inputs.all());
  }

  private record Inputs(Input.Assert edit, Input.Login login) {
    List<Input> all() {
      return login == null ? List.of(edit) : List.of(edit, login);
    }
  }

  private Inputs inputs(StoredPerson person, RenameRequest request, Consumer<Person> allowed) {
    var names = new HashMap<String, String>();
    put(names, Attributes.GIVEN_NAME, request.givenName());
    put(names, Attributes.FAMILY_NAME, request.familyName());
    if (request.displayName() != null) {
      names.put(Attributes.DISPLAY_NAME, request.displayName());
    }
    return new Inputs(
        edits.assertion(person, names, allowed), login(person.person().id(), request.login()));
  }

  /** Nobody is without a name: what is left empty is left as it is. */
  private static void put(Map<String, String> names, String attribute, String value) {
    if (value != null && !value.isBlank()) {
      names.put(attribute, value);
    }
  }

  private Input.Login login(PersonId id, String asked) {
    if (asked == null || asked.isBlank()) {
      return null;
    }
    var login = asked.strip().toLowerCase(Locale.ROOT);
    if (!database.read(schemes::inForce).mayBeChosen(login)) {
      throw Refusal.invalid(
          new Problem(
              "login-invalid",
              "%s cannot be a login.".formatted(login),
              "A login has no spaces and 64 characters at most, is no mailbox that every domain has, and not reserved.",
              "Choose another.",
              Where.field("login")));
    }
    return database.read(
        session -> {
          logins
              .owner(session, login)
              .filter(owner -> !owner.equals(id))
              .flatMap(owner -> people.get(session, owner))
              .ifPresent(owner -> refuse(login, owner.displayName()));
          var rests = logins.resting(session, Set.of(login), clock.today());
          if (!rests.getOrDefault(login, id).equals(id)) {
            refuse(login, "somebody who was forgotten, and it rests");
          }
          var held = logins.of(session, List.of(id)).getOrDefault(id, Logins.Held.NONE);
          return new Input.Login(id, login, true, held.current(), held.isFound());
        });
  }

  private static void refuse(String login, String whose) {
    throw Refusal.invalid(
        new Problem(
            "login-taken",
            "%s is, or was, the login of %s.".formatted(login, whose),
            "Mail to an old name, and what it opened, must not reach somebody else.",
            "Choose another.",
            Where.field("login")));
  }

  private static List<DerivedView> derived(Renamed renamed) {
    var all = new ArrayList<DerivedView>();
    all.add(
        new DerivedView(
            null,
            Attributes.DISPLAY_NAME,
            List.of(renamed.subject().person().displayName()),
            List.of(renamed.after().person().displayName())));
    all.add(new DerivedView(null, "login", login(renamed.subject()), login(renamed.after())));
    var applications = new TreeSet<>(renamed.desired().accounts().keySet());
    applications.addAll(renamed.desiredAfter().accounts().keySet());
    applications.forEach(
        application ->
            all.addAll(
                derived(
                    application,
                    account(renamed.desired(), application),
                    account(renamed.desiredAfter(), application))));
    return all;
  }

  private static List<String> login(Subject subject) {
    return Optional.ofNullable(subject.login()).map(List::of).orElse(List.of());
  }

  private static Optional<DesiredAccount> account(Desired desired, String application) {
    return Optional.ofNullable(desired.accounts().get(application));
  }

  private static List<DerivedView> derived(
      String application, Optional<DesiredAccount> before, Optional<DesiredAccount> after) {
    var attributes = new TreeSet<String>();
    before.ifPresent(account -> attributes.addAll(account.values().keySet()));
    after.ifPresent(account -> attributes.addAll(account.values().keySet()));
    return attributes.stream()
        .map(
            attribute ->
                new DerivedView(
                    application, attribute, texts(before, attribute), texts(after, attribute)))
        .filter(one -> !one.before().equals(one.after()))
        .toList();
  }

  private static List<String> texts(Optional<DesiredAccount> account, String attribute) {
    return account
        .map(one -> one.values().get(attribute))
        .map(grounded -> grounded.value().texts())
        .orElse(List.of());
  }
}
