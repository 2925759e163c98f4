package ebb.service.imports;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.SetState;
import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.RowReport;
import ebb.core.imports.Source;
import ebb.core.imports.Verdict;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.changes.Proposals;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.imports.Imports;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * What operators answer about rows set aside and missing people. Each answer computes its part
 * anew.
 */
@Component
final class Decisions {
  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final Imports imports;
  private final People people;
  private final Sources sources;
  private final LinkedFiles linked;
  private final Journal journal;

  Decisions(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      ChangeSets changeSets,
      Imports imports,
      People people,
      Sources sources,
      LinkedFiles linked,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.imports = imports;
    this.people = people;
    this.sources = sources;
    this.linked = linked;
    this.journal = journal;
  }

  /**
   * Answers a row set aside.
   *
   * @param answer "new", or "same:" and the number of the person it is
   */
  RowReport answer(long id, long line, String answer, String by) {
    var made = open(id);
    var row =
        database
            .read(session -> imports.row(session, id, line))
            .filter(report -> report.verdict() == Verdict.SET_ASIDE)
            .orElseThrow(
                () ->
                    Refusal.notFound(
                        "row set aside in line", line, "See: ebb imports rows %d".formatted(id)));
    var person = answered(row, answer);
    var inputs = new ArrayList<Input>();
    var now = now(made.source(), person);
    inputs.add(
        new Input.Assert(person, made.source(), row.key(), null, now.changing(row.values())));
    if (now(Source.HAND, person).values().containsKey(Attributes.END_DATE)) {
      // Who is named again has come back: the last day that was decided holds no more.
      inputs.add(new Input.Assert(person, Source.HAND, null, null, noEndDate()));
    }
    // The key that vanished gives way to this one: given out again it would be somebody else's.
    inputs.addAll(givenUp(made, row, person));
    var next = row.answered(person, answer);
    database.writeAll(
        session -> {
          if (row.answer() != null) {
            changeSets.dropInputs(session, made.changeSet(), row.person());
          }
          imports.putRow(session, id, next);
          // Whoever is named under another key is not missing.
          imports.dropMissing(session, id, person);
          dropLeaver(session, made.changeSet(), person);
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "answered line %d of import %d: %s".formatted(line, id, answer), person));
        });
    proposals.add(made.changeSet(), inputs);
    linked.follow(made, row.key(), person);
    proposals.showAnew(made.changeSet(), List.of(row.person(), person));
    return next;
  }

  private List<Input.Rekey> givenUp(Import made, RowReport row, PersonId person) {
    return database.read(session -> imports.missingOf(session, made.id(), person)).stream()
        .map(missing -> new Input.Rekey(person, made.source(), missing.key(), row.key()))
        .toList();
  }

  /** Decides about a person a complete file does not name. */
  Missing decide(long id, String key, Missing.Decision decision, String by) {
    var made = open(id);
    var missing =
        database
            .read(session -> imports.missing(session, id, key))
            .orElseThrow(
                () ->
                    Refusal.notFound(
                        "missing person", key, "See: ebb imports missing %d".formatted(id)));
    var next = new Missing(key, missing.person(), decision);
    database.writeAll(session -> keep(session, made, next, by));
    proposals.showAnew(made.changeSet(), List.of(missing.person()));
    return next;
  }

  private void keep(StatelessSession session, Import made, Missing missing, String by) {
    imports.putMissing(session, made.id(), List.of(missing));
    dropLeaver(session, made.changeSet(), missing.person());
    if (missing.decision() == Missing.Decision.LEAVER) {
      changeSets.addInputs(session, made.changeSet(), List.of(leaver(session, missing.person())));
      // Named again word for word, they must not be taken for unchanged.
      sources.forgetHashes(session, made.source(), List.of(missing.person()));
    }
    journal.write(
        session,
        clock.instant(),
        Deed.of(
            by,
            "decided that %s, missing in import %d, is: %s"
                .formatted(missing.key(), made.id(), missing.decision().word()),
            missing.person()));
  }

  /** What was decided before of somebody missing; what a row says of them stays. */
  private void dropLeaver(StatelessSession session, long set, PersonId person) {
    var others =
        changeSets.inputs(session, set, List.of(person)).stream()
            .filter(
                input ->
                    !(input instanceof Input.Assert(_, var source, _, _, _, _)
                        && source.equals(Source.HAND)))
            .toList();
    changeSets.dropInputs(session, set, person);
    changeSets.addInputs(session, set, others);
  }

  /** Confirmed by hand, so it is a hand that asserts it: yesterday was the last day. */
  private Input leaver(StatelessSession session, PersonId person) {
    var zone =
        people
            .get(session, person)
            .map(stored -> stored.person().zone(clock.zone()))
            .orElse(clock.zone());
    var yesterday = clock.instant().atZone(zone).toLocalDate().minusDays(1);
    return new Input.Assert(
        person, Source.HAND, null, null, Map.of(Attributes.END_DATE, yesterday.toString()));
  }

  private PersonId answered(RowReport row, String answer) {
    if (answer.equals("new")) {
      return row.answer() == null ? row.person() : newNumber(row);
    }
    if (answer.matches("same:\\d{1,18}")) {
      var id = Long.parseLong(answer.substring("same:".length()));
      if (row.resembles().containsKey(id)) {
        return new PersonId(id);
      }
    }
    throw Refusal.invalid(
        new Problem(
            "answer-invalid",
            "%s is no answer for line %d.".formatted(answer, row.line()),
            "The row may be somebody new, or one of the people it resembles.",
            "Answer new, or same:%s."
                .formatted(
                    row.resembles().keySet().stream()
                        .findFirst()
                        .map(String::valueOf)
                        .orElse("ID")),
            Where.field("answer")));
  }

  private PersonId newNumber(RowReport row) {
    return row.resembles().containsKey(row.person().value())
        ? database.write(session -> people.numbered(session, 1)).getFirst()
        : row.person();
  }

  private static Map<String, String> noEndDate() {
    var edits = new HashMap<String, String>();
    edits.put(Attributes.END_DATE, null);
    return edits;
  }

  private Assertions now(String source, PersonId person) {
    return database
        .read(session -> people.assertions(session, List.of(person)))
        .get(person)
        .stream()
        .filter(assertions -> assertions.source().equals(source))
        .findFirst()
        .orElseGet(() -> Assertions.none(person, source));
  }

  /**
   * The import, with the set into which decisions go: its own until that is released, and then one
   * that follows it. What a feed brings is released before anybody looks at it.
   */
  private Import open(long id) {
    var made =
        database
            .read(session -> imports.get(session, id))
            .orElseThrow(() -> Refusal.notFound("import", id, "See: ebb imports list"));
    if (made.effects() == null) {
      throw Refusal.conflict(notShown(made));
    }
    var state = stateOf(made.changeSet());
    if (state == SetState.SHOWN) {
      return made;
    }
    if (state != SetState.RELEASED || !isLatest(made)) {
      throw Refusal.conflict(notShown(made));
    }
    return made.into(answersSet(made));
  }

  private SetState stateOf(long set) {
    return database
        .read(session -> changeSets.get(session, set))
        .map(ChangeSet::state)
        .orElse(null);
  }

  /** What an older file said of a row, the next one says anew. */
  private boolean isLatest(Import made) {
    return database.read(session -> imports.released(session, made.source(), 1)).stream()
        .allMatch(last -> last.id() == made.id());
  }

  private long answersSet(Import made) {
    var there = database.read(session -> imports.answersSet(session, made.id()));
    if (there.filter(set -> stateOf(set) == SetState.SHOWN).isPresent()) {
      return there.get();
    }
    var set =
        proposals.show(
            proposals.begin(Cause.IMPORT, "decisions about " + made.file(), made.createdBy(), null),
            List.of());
    database.writeAll(session -> imports.putAnswersSet(session, made.id(), set.id()));
    return set.id();
  }

  private static Problem notShown(Import made) {
    return new Problem(
        "import-not-shown",
        "Import %d is %s.".formatted(made.id(), made.stage().word()),
        "Decisions are taken about what is shown, or about the last file of a source.",
        "Bring the file in again to decide anew.",
        null);
  }
}
