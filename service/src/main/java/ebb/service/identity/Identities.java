package ebb.service.identity;

import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.identity.Identity;
import ebb.core.identity.Merging;
import ebb.core.identity.Parting;
import ebb.core.imports.Likeness;
import ebb.core.imports.Likeness.Resemblance;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Grants;
import ebb.store.people.People;
import ebb.store.people.Sources;
import ebb.store.people.StoredPerson;
import ebb.store.people.Suspensions;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Makes one record of two, and two of one. Both are changes of what is asserted: shown before they
 * are released, and taken back as any other.
 */
@Component
final class Identities {
  /** Further back nobody looks for what a key once said. */
  private static final int MOST_STATES = 200;

  private final Database database;
  private final BusinessClock clock;
  private final Proposals proposals;
  private final ChangeSets changeSets;
  private final People people;
  private final Sources sources;
  private final Grants grants;
  private final Suspensions suspensions;
  private final Journal journal;

  Identities(
      Database database,
      BusinessClock clock,
      Proposals proposals,
      ChangeSets changeSets,
      People people,
      Sources sources,
      Grants grants,
      Suspensions suspensions,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.proposals = proposals;
    this.changeSets = changeSets;
    this.people = people;
    this.sources = sources;
    this.grants = grants;
    this.suspensions = suspensions;
    this.journal = journal;
  }

  /** Somebody who may be the same as somebody else. */
  record Alike(StoredPerson person, Resemblance why) {}

  /** Two records that may be one person. */
  record Pair(StoredPerson person, Alike alike) {}

  List<Identity.Key> keys(PersonId id) {
    get(id);
    return database.read(session -> sources.keysOf(session, id));
  }

  /** Who may be the same as a person, likeliest first; who is known to be another is left out. */
  List<Alike> alike(StoredPerson person) {
    return database.read(session -> alike(session, person));
  }

  private List<Alike> alike(StatelessSession session, StoredPerson stored) {
    var id = stored.person().id();
    var clues = Likeness.clues(stored.person());
    var candidates = new TreeSet<>(Likeness.likeliest(clues, people.byClues(session, clues)));
    candidates.remove(id);
    candidates.removeAll(people.apartFrom(session, id));
    if (candidates.isEmpty()) {
      return List.of();
    }
    var ofSources = sourcesOf(session, id);
    return people.all(session, candidates).stream()
        .filter(other -> !other.person().attributes().isEmpty())
        .flatMap(
            other ->
                Likeness.between(
                    stored.person(),
                    other.person(),
                    sourcesOf(session, other.person().id()).stream().anyMatch(ofSources::contains),
                    other.person().stage(clock.instant(), clock.zone()) == Stage.DEPARTED)
                    .map(why -> new Alike(other, why))
                    .stream())
        .sorted(Comparator.comparingInt((Alike one) -> one.why().score()).reversed())
        .toList();
  }

  private Set<String> sourcesOf(StatelessSession session, PersonId id) {
    return sources.keysOf(session, id).stream()
        .map(Identity.Key::source)
        .collect(Collectors.toSet());
  }

  /**
   * Pairs among so many people after one, in the order of their numbers. Each pair is found once,
   * with the lower number first.
   */
  List<Pair> pairs(List<PersonId> among) {
    var pairs = new ArrayList<Pair>();
    database.read(
        session -> {
          for (var stored : people.all(session, among)) {
            alike(session, stored).stream()
                .filter(other -> other.person().person().id().compareTo(stored.person().id()) > 0)
                .forEach(other -> pairs.add(new Pair(stored, other)));
          }
          return null;
        });
    return pairs;
  }

  List<PersonId> after(PersonId last, int count) {
    return database.read(session -> people.after(session, last, count));
  }

  /** Shows what making one record of two would change. */
  ChangeSet merge(PersonId id, PersonId other, String by) {
    var kept = identity(id);
    var gone = identity(other);
    var inputs =
        Merging.inputs(
            kept, gone, new Numbers(gone.grants().size() + gone.suspensions().size())::next);
    return proposals.propose(
        Cause.HAND,
        "person %s and person %s are one: %s".formatted(id, other, kept.name()),
        by,
        null,
        inputs);
  }

  /** Shows what making somebody of their own of one key would change. */
  ChangeSet part(PersonId id, Identity.Key key, String by) {
    var record = identity(id);
    var inputs =
        Parting.inputs(
            record,
            key,
            database.write(session -> people.numbered(session, 1)).getFirst(),
            database.read(session -> history(session, id, key.source())),
            new Numbers(record.grants().size())::next);
    return proposals.propose(
        Cause.HAND,
        "%s of %s is not %s but somebody else".formatted(key.key(), key.source(), record.name()),
        by,
        null,
        inputs);
  }

  /** Remembers that two people who are alike are two. */
  void keepApart(PersonId id, PersonId other, String by) {
    get(id);
    get(other);
    database.writeAll(
        session -> {
          people.keepApart(session, id, other, by);
          journal.write(
              session,
              clock.instant(),
              Deed.of(by, "said that person %s is somebody else".formatted(other), id));
        });
  }

  StoredPerson get(PersonId id) {
    return database
        .read(session -> people.get(session, id))
        .orElseThrow(
            () -> Refusal.notFound("person", id, "Find them: ebb people list --name NAME"));
  }

  private Identity identity(PersonId id) {
    var person = get(id);
    return database.read(
        session ->
            new Identity(
                id,
                person.displayName(),
                people.assertions(session, List.of(id)).get(id),
                sources.keysOf(session, id),
                grants.of(session, List.of(id)).getOrDefault(id, List.of()),
                suspensions.of(session, List.of(id)).getOrDefault(id, List.of()),
                people.assertions(session, people.readersOf(session, List.of(id))).values().stream()
                    .flatMap(List::stream)
                    .toList()));
  }

  /** What a source said of a record, with the key under which it did. */
  private List<Parting.Left> history(StatelessSession session, PersonId id, String source) {
    var states = people.history(session, id, source, MOST_STATES);
    var causes = states.stream().map(Map.Entry::getKey).collect(Collectors.toSet());
    var keys = changeSets.keysSaid(session, id, source, causes);
    var left = new ArrayList<Parting.Left>();
    for (var state : states) {
      // The last state of a set belongs to its last input.
      var said = keys.getOrDefault(state.getKey(), List.of());
      left.add(new Parting.Left(said.isEmpty() ? null : said.removeLast(), state.getValue()));
    }
    return left;
  }

  /** Numbers for grants and suspensions, drawn together. */
  private final class Numbers {
    private final Deque<Long> numbers = new ArrayDeque<>();

    Numbers(int count) {
      for (int i = 0; i < count; i++) {
        numbers.add(database.write(grants::number));
      }
    }

    long next() {
      return numbers.remove();
    }
  }
}
