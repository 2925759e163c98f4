package ebb.service.authority;

import ebb.api.RetirementView;
import ebb.api.RetirementView.FallbackView;
import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.feed.Feed;
import ebb.core.imports.Source;
import ebb.core.person.Assertions;
import ebb.core.person.Fallback;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.store.Database;
import ebb.store.feeds.Feeds;
import ebb.store.people.Grants;
import ebb.store.people.People;
import ebb.store.people.Sources;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Takes away all that a source says: an input like any other, shown before it is released. What
 * other sources say of the same people holds then.
 */
@Component
final class Retirement {
  private static final int PART = 500;

  /** Beyond so many, what would become of the others is told from these. */
  private static final int MOST_LOOKED_AT = 100_000;

  private final Database database;
  private final Proposals proposals;
  private final Sources sources;
  private final People people;
  private final Grants grants;
  private final Feeds feeds;

  Retirement(
      Database database,
      Proposals proposals,
      Sources sources,
      People people,
      Grants grants,
      Feeds feeds) {
    this.database = database;
    this.proposals = proposals;
    this.sources = sources;
    this.people = people;
    this.grants = grants;
    this.feeds = feeds;
  }

  /** What would fall back to whom. */
  RetirementView look(String source) {
    var ranks =
        database.read(sources::list).stream().collect(Collectors.toMap(Source::name, Source::rank));
    mustBe(source, ranks.keySet());
    var found = new Found();
    var isWhole =
        eachPart(
            source,
            MOST_LOOKED_AT,
            part ->
                part.forEach(
                    (id, said) ->
                        found.add(
                            Fallback.without(source, id, said, name -> ranks.getOrDefault(name, 0)),
                            said.stream().allMatch(one -> one.source().equals(source)))));
    return found.view(source, isWhole);
  }

  /**
   * Shows what taking away all it says would change.
   *
   * @throws Refusal if a feed still brings it in
   */
  ChangeSet show(String source, String by) {
    mustBe(source, database.read(sources::list).stream().map(Source::name).toList());
    if (database
        .read(session -> feeds.get(session, source))
        .filter(feed -> feed.state() == Feed.State.ON)
        .isPresent()) {
      throw Refusal.conflict(stillFed(source));
    }
    var set =
        proposals.begin(Cause.HAND, "source %s says nothing any more".formatted(source), by, null);
    eachPart(source, Integer.MAX_VALUE, part -> proposals.add(set.id(), inputs(source, part)));
    return proposals.show(set, List.of());
  }

  private List<Input> inputs(String source, Map<PersonId, List<Assertions>> part) {
    var inputs = new ArrayList<Input>();
    part.forEach(
        (id, all) ->
            all.stream()
                .filter(said -> said.source().equals(source))
                .forEach(
                    said -> {
                      var edits = new TreeMap<String, String>();
                      said.values().keySet().forEach(attribute -> edits.put(attribute, null));
                      inputs.add(new Input.Assert(id, source, null, null, edits));
                    }));
    database
        .read(session -> grants.of(session, part.keySet()))
        .values()
        .forEach(
            given ->
                given.stream()
                    .filter(grant -> grant.source().equals(source))
                    .forEach(grant -> inputs.add(new Input.EndGrant(grant.person(), grant.id()))));
    return inputs;
  }

  /**
   * @return whether all were looked at
   */
  private boolean eachPart(
      String source, int most, Consumer<Map<PersonId, List<Assertions>>> take) {
    String last = null;
    int looked = 0;
    do {
      var after = last;
      var page = database.read(session -> sources.peopleOf(session, source, after, PART));
      take.accept(database.read(session -> people.assertions(session, page.items())));
      looked += page.items().size();
      last = page.next();
    } while (last != null && looked < most);
    return last == null;
  }

  private static void mustBe(String source, Collection<String> known) {
    if (!known.contains(source) || source.equals(Source.HAND)) {
      throw Refusal.notFound("source to retire", source, "See: ebb sources list");
    }
  }

  private static Problem stillFed(String source) {
    return new Problem(
        "feed-still-on",
        "Feed %s is on.".formatted(source),
        "Its next delivery would say everything again.",
        "Pause it first: ebb feeds pause %s".formatted(source),
        null);
  }

  /** What was found so far, by attribute and by whom it falls to. */
  private static final class Found {
    private record Way(String attribute, String to) {}

    private final Map<Way, long[]> ways =
        new TreeMap<>(
            Comparator.comparing(Way::attribute)
                .thenComparing(way -> way.to() == null ? "" : way.to()));
    private long people;
    private long alone;

    void add(Map<String, Fallback> fallbacks, boolean isAlone) {
      people++;
      alone += isAlone ? 1 : 0;
      fallbacks.forEach(
          (attribute, fallback) -> {
            var counts = ways.computeIfAbsent(new Way(attribute, fallback.to()), _ -> new long[2]);
            counts[0]++;
            counts[1] += fallback.isOther() ? 1 : 0;
          });
    }

    RetirementView view(String source, boolean isWhole) {
      return new RetirementView(
          source,
          people,
          alone,
          isWhole,
          ways.entrySet().stream()
              .map(
                  way ->
                      new FallbackView(
                          way.getKey().attribute(),
                          way.getKey().to(),
                          way.getValue()[0],
                          way.getValue()[1]))
              .toList());
    }
  }
}
