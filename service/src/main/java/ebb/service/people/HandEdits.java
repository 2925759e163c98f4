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
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.changes.Releases;
import ebb.service.time.BusinessClock;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.people.Grants;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** What operators change themselves: an input like any other, shown before it is released. */
@Component
final class HandEdits {
  private static final ValueCheck CHECK = new ValueCheck("uuuu-MM-dd");

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final Releases releases;
  private final People people;
  private final Grants grants;
  private final Accounts accounts;
  private final Applications applications;

  HandEdits(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      Releases releases,
      People people,
      Grants grants,
      Accounts accounts,
      Applications applications) {
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
  ChangeSet add(Map<String, String> attributes, String by) {
    var edits = checked(attributes, true);
    var id = database.write(session -> people.numbered(session, 1)).getFirst();
    return proposals.propose(
        Cause.HAND,
        "new person " + edits.get(Attributes.GIVEN_NAME) + " " + edits.get(Attributes.FAMILY_NAME),
        by,
        null,
        List.of(new Input.Assert(id, Source.HAND, null, null, edits)));
  }

  /**
   * Shows what an edit would change.
   *
   * @param version the one the operator saw; null to take the one there is
   */
  ChangeSet edit(PersonId id, Map<String, String> attributes, Long version, String by) {
    var person = get(id);
    Requests.expect(person.displayName(), version, person.version());
    var edits = checked(attributes, false);
    var now =
        database.read(session -> people.assertions(session, List.of(id))).get(id).stream()
            .filter(assertions -> assertions.source().equals(Source.HAND))
            .findFirst()
            .orElseGet(() -> Assertions.none(id, Source.HAND));
    return proposals.propose(
        Cause.HAND,
        "edit of " + person.displayName(),
        by,
        null,
        List.of(new Input.Assert(id, Source.HAND, null, null, now.changing(edits))));
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
            until);
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
    var drafts =
        database
            .read(session -> accounts.of(session, List.of(id)))
            .getOrDefault(id, List.of())
            .stream()
            .filter(account -> account.level().exists())
            .map(account -> reset(id, account))
            .toList();
    if (drafts.isEmpty()) {
      throw Refusal.conflict(
          new Problem(
              "no-account",
              "%s has no account.".formatted(person.displayName()),
              "There is no password to reset.",
              "See what is planned for them: ebb people show " + id,
              null));
    }
    var set =
        proposals.steps(Cause.ORDER, "password reset for " + person.displayName(), by, drafts);
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

  private SortedMap<String, String> checked(Map<String, String> attributes, boolean isNew) {
    var edits = new TreeMap<String, String>();
    var problems = new ArrayList<Problem>();
    var given = attributes == null ? Map.<String, String>of() : attributes;
    given.forEach(
        (attribute, text) -> {
          if (!Attributes.known().contains(attribute)) {
            problems.add(unknown(attribute));
          } else if (text == null || text.isBlank()) {
            edits.put(attribute, null);
          } else {
            check(attribute, text.strip(), edits, problems);
          }
        });
    if (isNew) {
      Attributes.COMPULSORY.stream()
          .sorted()
          .filter(attribute -> edits.get(attribute) == null)
          .map(HandEdits::missing)
          .forEach(problems::add);
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return edits;
  }

  private void check(
      String attribute, String text, Map<String, String> edits, List<Problem> problems) {
    switch (CHECK.of(attribute, text, Where.field(attribute))) {
      case ValueCheck.Good(var value) when Attributes.type(attribute) == Attributes.Type.PERSON ->
          edits.put(attribute, get(personNumber(value)).person().id().toString());
      case ValueCheck.Good(var value) -> edits.put(attribute, value);
      case ValueCheck.Bad(var problem) -> problems.add(problem);
    }
  }

  private static PersonId personNumber(String text) {
    if (!text.matches("\\d{1,18}")) {
      throw Refusal.notFound("person", text, "Give the person's number in Ebb.");
    }
    return new PersonId(Long.parseLong(text));
  }

  private static Problem unknown(String attribute) {
    return new Problem(
        "attribute-unknown",
        "There is no attribute %s.".formatted(attribute),
        "Its value would reach nobody.",
        "Use one of " + new TreeSet<>(Attributes.known()) + ".",
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
