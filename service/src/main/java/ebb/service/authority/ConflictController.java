package ebb.service.authority;

import ebb.api.ConflictChoice;
import ebb.api.ConflictChoiceView;
import ebb.api.ConflictView;
import ebb.api.Listing;
import ebb.core.change.Cause;
import ebb.core.change.Input;
import ebb.core.imports.Source;
import ebb.core.operator.Act;
import ebb.core.person.Assertions;
import ebb.core.person.ByHand;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.reach.Reaches;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.OwnAttributes;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredConflicts;
import ebb.store.people.StoredPerson;
import java.security.Principal;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Where sources say different things of one person, and whom somebody believes. */
@RestController
@RequestMapping("/api/v1/conflicts")
class ConflictController {
  private static final int MOST = 1_000;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final StoredConflicts conflicts;
  private final People people;
  private final Sources sources;
  private final OwnAttributes attributes;
  private final Journal journal;
  private final Reaches reaches;

  ConflictController(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      StoredConflicts conflicts,
      People people,
      Sources sources,
      OwnAttributes attributes,
      Journal journal,
      Reaches reaches) {
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.conflicts = conflicts;
    this.people = people;
    this.sources = sources;
    this.attributes = attributes;
    this.journal = journal;
    this.reaches = reaches;
  }

  /** Those nobody has looked at, in the order of people's numbers. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<ConflictView> list(
      @RequestParam(required = false) String cursor,
      @RequestParam(defaultValue = "100") int limit,
      Principal principal) {
    var reach = Callers.of(principal).reach();
    return database.read(
        session -> {
          var page = conflicts.open(session, after(cursor), Math.clamp(limit, 1, MOST));
          var ids =
              page.items().stream().map(StoredConflicts.Open::person).collect(Collectors.toSet());
          var known = people.getAll(session, ids);
          var said = people.assertions(session, ids);
          var order = sources.list(session).stream().map(Source::name).toList();
          return Listing.page(
              page.items().stream()
                  .filter(one -> known.containsKey(one.person()))
                  .filter(one -> reach.covers(known.get(one.person()).person()))
                  .map(one -> view(one, known.get(one.person()), said.get(one.person()), order))
                  .toList(),
              page.next());
        });
  }

  private static StoredConflicts.Open after(String cursor) {
    return cursor == null
        ? null
        : StoredConflicts.Open.of(cursor).orElseThrow(() -> Requests.badCursor(cursor));
  }

  /**
   * Says whom one believes. It is remembered until one of the sources says something else. Where
   * the value does not hold already, setting it by hand is shown as a change set.
   */
  @Allowed(Act.EDIT_PEOPLE)
  @PutMapping("/{person}/{attribute}")
  ConflictChoiceView choose(
      @PathVariable long person,
      @PathVariable String attribute,
      @RequestBody ConflictChoice choice,
      Principal principal) {
    reaches.require(principal, person);
    var id = new PersonId(person);
    var stored =
        database
            .read(session -> people.get(session, id))
            .orElseThrow(() -> Refusal.notFound("person", id, "See: ebb conflicts list"));
    var source = Requests.required(choice.source(), "source");
    var value = database.read(session -> said(session, id, source, attribute));
    var holds = Objects.equals(stored.person().get(attribute).orElse(null), value);
    if (!holds) {
      mayBeSet(attribute, choice);
    }
    database.writeAll(
        session -> {
          if (!conflicts.settle(session, id, attribute, principal.getName())) {
            throw Refusal.notFound("conflict about " + attribute, id, "See: ebb conflicts list");
          }
          journal.write(
              session,
              clock.instant(),
              Deed.of(
                  principal.getName(),
                  "believed %s about %s of a person".formatted(source, attribute),
                  id));
        });
    return new ConflictChoiceView(holds ? null : show(stored, attribute, value, choice, principal));
  }

  private long show(
      StoredPerson stored,
      String attribute,
      String value,
      ConflictChoice choice,
      Principal principal) {
    return proposals
        .propose(
            Cause.HAND,
            "%s of %s as %s says".formatted(attribute, stored.displayName(), choice.source()),
            principal.getName(),
            null,
            List.of(
                new Input.Assert(
                    stored.person().id(),
                    Source.HAND,
                    null,
                    null,
                    Map.of(attribute, value),
                    choice.until())))
        .id();
  }

  private String said(StatelessSession session, PersonId id, String source, String attribute) {
    return people.assertions(session, List.of(id)).get(id).stream()
        .filter(one -> one.source().equals(source) && one.values().containsKey(attribute))
        .map(one -> one.values().get(attribute).value())
        .findFirst()
        .orElseThrow(
            () ->
                Refusal.notFound(
                    "value of %s by".formatted(attribute), source, "See: ebb conflicts list"));
  }

  private void mayBeSet(String attribute, ConflictChoice choice) {
    var hand =
        database
            .read(attributes::catalogue)
            .find(attribute)
            .map(one -> one.byHand())
            .orElse(ByHand.ALLOWED);
    if (hand == ByHand.FORBIDDEN) {
      throw Refusal.conflict(
          new Problem(
              "attribute-not-by-hand",
              "%s is not set by hand.".formatted(attribute),
              "Its definition says that its sources alone set it, and a stronger one says something else.",
              "Correct it there; or give %s the higher rank.".formatted(choice.source()),
              Where.field("source")));
    }
    if (hand == ByHand.DATED && choice.until() == null) {
      throw Refusal.invalid(
          new Problem(
              "override-without-end",
              "%s is set by hand up to a day only.".formatted(attribute),
              "A stronger source says something else, and has the say in the end.",
              "Name the last day it is to hold.",
              Where.field("until")));
    }
  }

  private static ConflictView view(
      StoredConflicts.Open open, StoredPerson stored, List<Assertions> all, List<String> order) {
    var held = stored.person().attributes().get(open.attribute());
    return new ConflictView(
        open.person().value(),
        stored.displayName(),
        open.attribute(),
        held == null ? null : held.source(),
        held == null ? null : held.value(),
        all.stream()
            .filter(one -> one.values().containsKey(open.attribute()))
            .filter(one -> !one.source().equals(Source.HAND))
            .sorted(Comparator.comparingInt(one -> order.indexOf(one.source())))
            .map(
                one ->
                    new ConflictView.SaidView(
                        one.source(),
                        one.values().get(open.attribute()).value(),
                        one.values().get(open.attribute()).since()))
            .toList());
  }
}
