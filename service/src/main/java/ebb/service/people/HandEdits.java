package ebb.service.people;

import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.Needs.Draft;
import ebb.core.change.Step;
import ebb.core.imports.Source;
import ebb.core.imports.ValueCheck;
import ebb.core.person.Assertions;
import ebb.core.person.Attribute;
import ebb.core.person.Attributes;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.person.Grant;
import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.people.Grants;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** What operators change themselves: an input like any other, shown before it is released. */
@Component
public final class HandEdits {
  private static final int MOST_AT_ONCE = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final Releases releases;
  private final People people;
  private final Grants grants;
  private final Accounts accounts;
  private final Applications applications;

  private final OwnAttributes own;

  HandEdits(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      Releases releases,
      People people,
      Grants grants,
      Accounts accounts,
      Applications applications,
      OwnAttributes own) {
    this.own = own;
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.releases = releases;
    this.people = people;
    this.grants = grants;
    this.accounts = accounts;
    this.applications = applications;
  }

  /** Shows what a new person would get. */
  ChangeSet add(Map<String, String> attributes, String by, Consumer<Person> allowed) {
    var edits = checked(attributes, true);
    var id = database.write(session -> people.numbered(session, 1)).getFirst();
    allowed.accept(with(Person.resolve(id, List.of(), _ -> 0), edits));
    return proposals.propose(
        Cause.HAND,
        Stream.of("new person", edits.get(Attributes.GIVEN_NAME), edits.get(Attributes.FAMILY_NAME))
            .filter(Objects::nonNull)
            .collect(Collectors.joining(" ")),
        by,
        null,
        List.of(new Input.Assert(id, Source.HAND, null, null, edits)));
  }

  /**
   * Shows what an edit would change.
   *
   * @param version the one the operator saw; null to take the one there is
   * @param allowed looks at the person as edited, and refuses what the operator may not make of
   *     them
   */
  public ChangeSet edit(
      PersonId id,
      Map<String, String> attributes,
      LocalDate until,
      Long version,
      String by,
      Consumer<Person> allowed) {
    var person = get(id);
    expect(person, version);
    return edit(
        List.of(person), attributes, until, title(person.displayName(), attributes), by, allowed);
  }

  /** Shows what the same edit would change for several people. */
  ChangeSet editAll(
      List<PersonId> ids,
      Map<String, String> attributes,
      LocalDate until,
      String by,
      Consumer<Person> allowed) {
    var all = getAll(ids);
    var whom = all.size() == 1 ? all.getFirst().displayName() : all.size() + " people";
    return edit(all, attributes, until, title(whom, attributes), by, allowed);
  }

  /** Another unit is what people call a move, and a last day alone that somebody leaves. */
  private static String title(String whom, Map<String, String> attributes) {
    var edits = attributes == null ? Map.<String, String>of() : attributes;
    var unit = edits.get(Attributes.DEPARTMENT);
    var lastDay = edits.get(Attributes.END_DATE);
    if (unit != null) {
      return "move of %s to %s".formatted(whom, unit);
    }
    return edits.size() == 1 && lastDay != null && !lastDay.isBlank()
        ? "last day of %s: %s".formatted(whom, lastDay)
        : "edit of " + whom;
  }

  /** Shows what editing each of several people otherwise would change. */
  public ChangeSet editEach(
      Map<PersonId, Map<String, String>> edits, String title, String by, Consumer<Person> allowed) {
    var inputs = new ArrayList<Input>();
    var all = List.copyOf(edits.keySet());
    for (int from = 0; from < all.size(); from += MOST_AT_ONCE) {
      var part = getAll(all.subList(from, Math.min(from + MOST_AT_ONCE, all.size())));
      inputs.addAll(
          inputs(part, one -> checked(edits.get(one.person().id()), false), null, allowed));
    }
    return proposals.propose(Cause.HAND, title, by, null, inputs);
  }

  /** What a hand says of somebody for good, as an input of a set that holds more. */
  Input.Assert assertion(
      StoredPerson person, Map<String, String> attributes, Consumer<Person> allowed) {
    var edits = checked(attributes, false);
    return inputs(List.of(person), _ -> edits, null, allowed).getFirst();
  }

  private ChangeSet edit(
      List<StoredPerson> all,
      Map<String, String> attributes,
      LocalDate until,
      String title,
      String by,
      Consumer<Person> allowed) {
    var edits = checked(attributes, false);
    return proposals.propose(Cause.HAND, title, by, null, inputs(all, _ -> edits, until, allowed));
  }

  private List<Input.Assert> inputs(
      List<StoredPerson> all,
      Function<StoredPerson, SortedMap<String, String>> editsOf,
      LocalDate until,
      Consumer<Person> allowed) {
    var edits = new HashMap<PersonId, SortedMap<String, String>>();
    for (var stored : all) {
      var ofOne = editsOf.apply(stored);
      endsAmiss(ofOne, until);
      allowed.accept(with(stored.person(), ofOne));
      edits.put(stored.person().id(), ofOne);
    }
    var asserted = database.read(session -> people.assertions(session, edits.keySet()));
    return all.stream()
        .map(stored -> stored.person().id())
        .map(
            id ->
                new Input.Assert(
                    id,
                    Source.HAND,
                    null,
                    null,
                    byHand(id, asserted.get(id)).changing(edits.get(id), until),
                    until))
        .toList();
  }

  private void endsAmiss(Map<String, String> edits, LocalDate until) {
    var problems = new ArrayList<Problem>();
    if (until != null && until.isBefore(clock.today())) {
      problems.add(endPassed(until));
    }
    if (until == null) {
      var catalogue = database.read(own::catalogue);
      edits.forEach(
          (attribute, value) -> {
            if (value != null && catalogue.find(attribute).orElseThrow().byHand() == ByHand.DATED) {
              problems.add(endNeeded(attribute));
            }
          });
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
  }

  private static Assertions byHand(PersonId id, List<Assertions> all) {
    return all.stream()
        .filter(assertions -> assertions.source().equals(Source.HAND))
        .findFirst()
        .orElseGet(() -> Assertions.none(id, Source.HAND));
  }

  /** A person as an edit would leave them, were nothing else to change. */
  private Person with(Person person, Map<String, String> edits) {
    var held = new TreeMap<>(person.attributes());
    edits.forEach(
        (attribute, value) -> {
          if (value == null) {
            held.remove(attribute);
          } else {
            held.put(attribute, new Held(value, Source.HAND, clock.instant()));
          }
        });
    return new Person(person.id(), held);
  }

  /** What others changed meanwhile is said with it, so that nothing need be looked up. */
  void expect(StoredPerson person, Long version) {
    if (version != null && version != person.version()) {
      throw new Refusal(
          Refusal.Kind.STALE,
          new Problem(
              "edited-meanwhile",
              "%s was edited since you read it.".formatted(person.displayName()),
              "Your edit would be made on values you have not seen.",
              "Look at the values there now, which are beside yours; then show the edit again.",
              null));
    }
  }

  /** Shows what giving a group would change. */
  ChangeSet give(
      PersonId id,
      String application,
      String group,
      String reason,
      LocalDate from,
      LocalDate until,
      String by) {
    var person = get(id);
    database
        .read(session -> applications.get(session, application))
        .orElseThrow(
            () -> Refusal.notFound("application", application, "See: ebb applications list"));
    var grant =
        new Grant(
            database.write(grants::number),
            id,
            application,
            group,
            reason,
            from == null ? clock.today() : from,
            until,
            Source.HAND);
    return proposals.propose(
        Cause.HAND,
        "group %s for %s".formatted(group, person.displayName()),
        by,
        null,
        List.of(new Input.Give(id, grant)));
  }

  /** Shows what ending a grant would change. */
  ChangeSet end(PersonId id, long grant, String by) {
    var person = get(id);
    database
        .read(session -> grants.get(session, grant))
        .filter(given -> given.person().equals(id))
        .orElseThrow(() -> Refusal.notFound("grant", grant, "See: ebb people show " + id));
    return proposals.propose(
        Cause.HAND,
        "end of grant %d for %s".formatted(grant, person.displayName()),
        by,
        null,
        List.of(new Input.EndGrant(id, grant)));
  }

  /** Orders that all passwords of a person be made unusable, and a new one asked for. */
  ChangeSet reset(PersonId id, String by) {
    var person = get(id);
    return reset(List.of(id), person.displayName(), by);
  }

  /** The same for several people; those without an account are left out. */
  ChangeSet resetAll(List<PersonId> ids, String by) {
    var all = getAll(ids);
    return reset(ids, "%d people".formatted(all.size()), by);
  }

  private ChangeSet reset(List<PersonId> ids, String whose, String by) {
    var drafts =
        database.read(session -> accounts.of(session, ids)).values().stream()
            .flatMap(List::stream)
            .filter(account -> account.level().exists())
            .map(account -> reset(account.person(), account))
            .toList();
    if (drafts.isEmpty()) {
      throw Refusal.conflict(
          new Problem(
              "no-account",
              "There is no account of %s.".formatted(whose),
              "There is no password to reset.",
              "See what is planned for them.",
              null));
    }
    var set = proposals.steps(Cause.ORDER, "password reset for " + whose, by, drafts);
    return releases.release(set.id(), null, by, null);
  }

  private static Draft reset(PersonId id, Account account) {
    return new Draft(id, account.application(), account.id(), Step.of(ChangeKind.RESET, "order"));
  }

  StoredPerson get(PersonId id) {
    return database
        .read(session -> people.get(session, id))
        .orElseThrow(
            () -> Refusal.notFound("person", id, "Find them: ebb people list --name NAME"));
  }

  private List<StoredPerson> getAll(List<PersonId> ids) {
    if (ids.isEmpty() || ids.size() > MOST_AT_ONCE) {
      throw Refusal.invalid(
          new Problem(
              "selection-size",
              "%d people were chosen.".formatted(ids.size()),
              "Between one and %d can be worked on at once.".formatted(MOST_AT_ONCE),
              "Choose fewer, or bring a file in.",
              Where.field("people")));
    }
    var found = database.read(session -> people.getAll(session, ids));
    ids.stream()
        .filter(id -> !found.containsKey(id))
        .findFirst()
        .ifPresent(
            id -> {
              throw Refusal.notFound("person", id, "Choose again.");
            });
    return ids.stream().distinct().map(found::get).toList();
  }

  private SortedMap<String, String> checked(Map<String, String> attributes, boolean isNew) {
    var catalogue = database.read(own::catalogue);
    var edits = new TreeMap<String, String>();
    var problems = new ArrayList<Problem>();
    var given = attributes == null ? Map.<String, String>of() : attributes;
    given.forEach(
        (attribute, text) -> {
          var known = catalogue.find(attribute);
          if (known.isEmpty()) {
            problems.add(unknown(attribute, catalogue));
          } else if (known.get().byHand() == ByHand.FORBIDDEN && text != null && !text.isBlank()) {
            problems.add(notByHand(attribute));
          } else if (text == null || text.isBlank()) {
            edits.put(attribute, null);
          } else {
            check(catalogue, known.get(), text.strip(), edits, problems);
          }
        });
    if (isNew) {
      addFallbacks(catalogue, edits);
      catalogue.required().stream()
          .filter(attribute -> edits.get(attribute) == null)
          .map(HandEdits::missing)
          .forEach(problems::add);
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return edits;
  }

  private static void addFallbacks(Catalogue catalogue, Map<String, String> edits) {
    catalogue.all().stream()
        .filter(attribute -> attribute.fallback() != null)
        .forEach(attribute -> edits.putIfAbsent(attribute.name(), attribute.fallback()));
  }

  private void check(
      Catalogue catalogue,
      Attribute attribute,
      String text,
      Map<String, String> edits,
      List<Problem> problems) {
    var name = attribute.name();
    switch (new ValueCheck(catalogue, "uuuu-MM-dd").of(name, text, Where.field(name))) {
      case ValueCheck.Good(var value) when attribute.type() == Attribute.Type.PERSON ->
          edits.put(name, get(personNumber(value)).person().id().toString());
      case ValueCheck.Good(var value) -> edits.put(name, value);
      case ValueCheck.Bad(var problem) -> problems.add(problem);
    }
  }

  private static PersonId personNumber(String text) {
    if (!text.matches("\\d{1,18}")) {
      throw Refusal.notFound("person", text, "Give the person's number in Ebb.");
    }
    return new PersonId(Long.parseLong(text));
  }

  private static Problem notByHand(String attribute) {
    return new Problem(
        "attribute-not-by-hand",
        "%s is not set by hand.".formatted(attribute),
        "Its definition says that its sources alone set it.",
        "Correct it where it comes from.",
        Where.field(attribute));
  }

  private static Problem endNeeded(String attribute) {
    return new Problem(
        "override-without-end",
        "%s is set by hand up to a day only.".formatted(attribute),
        "Its sources have the say; what a hand sets for good is forgotten, and wrong one day.",
        "Name the last day it is to hold.",
        Where.field("until"));
  }

  private static Problem endPassed(LocalDate until) {
    return new Problem(
        "override-ended",
        "%s has passed.".formatted(until),
        "It would hold for no day.",
        "Name today or a later day.",
        Where.field("until"));
  }

  private static Problem unknown(String attribute, Catalogue catalogue) {
    return new Problem(
        "attribute-unknown",
        "There is no attribute %s.".formatted(attribute),
        "Its value would reach nobody.",
        "Use one of " + catalogue.names() + ".",
        Where.field(attribute));
  }

  private static Problem missing(String attribute) {
    return new Problem(
        "value-missing",
        "%s is empty.".formatted(attribute),
        "Nobody can be created without it.",
        "Fill it in.",
        Where.field(attribute));
  }
}
