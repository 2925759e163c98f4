package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.EarlierItems;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class CatchUpTest {
  private static final Problem NOT_THERE =
      new Problem("not-there", "There is nothing there.", "It answered so.", "Look again.", null);

  @Test
  public void whoCameLaterIsTakenIntoItemsAndNobodyElseIsTouched() {
    var crew = new Crew(Set.of("ada", "bo"), true);
    crew.make("muster", "bo", "cy");
    crew.make("rota");

    var outcome = CatchUp.apply(crew, "ada", "crew");

    assertThat(outcome).isInstanceOf(Outcome.Applied.class);
    assertThat(crew.named("muster")).containsExactly("ada", "bo", "cy");
    assertThat(crew.named("rota")).containsExactly("ada");
  }

  @Test
  public void whoLeftIsTakenOutOfItems() {
    var crew = new Crew(Set.of("bo"), true);
    crew.make("muster", "ada", "bo");

    CatchUp.apply(crew, "ada", "crew");

    assertThat(crew.named("muster")).containsExactly("bo");
  }

  @Test
  public void whatIsTakenAndNotDoneIsSaid() {
    var crew = new Crew(Set.of("ada"), false);
    crew.make("muster");

    assertThat(CatchUp.apply(crew, "ada", "crew"))
        .isInstanceOfSatisfying(
            Outcome.Met.class,
            met -> {
              assertThat(met.problem().code()).isEqualTo("earlier-items-astray");
              assertThat(met.problem().what()).contains("meeting muster");
            });
  }

  @Test
  public void anApplicationThatDoesNotAnswerIsTriedAgain() {
    assertThat(CatchUp.apply(new Silent(), "ada", "crew"))
        .isEqualTo(new Outcome.RetryLater(null, NOT_THERE));
  }

  @Test
  public void anApplicationWithoutSuchAPartRefuses() {
    assertThat(CatchUp.apply(new Plain(), "ada", "crew")).isInstanceOf(Outcome.Refused.class);
  }

  /** Has one group, with meetings that do not follow it. */
  private record Crew(
      Set<String> members, boolean isObedient, SortedMap<String, SortedSet<String>> made)
      implements NarrowConnector {
    Crew(Set<String> members, boolean isObedient) {
      this(members, isObedient, new TreeMap<>());
    }

    void make(String name, String... named) {
      made.put(name, new TreeSet<>(List.of(named)));
    }

    Set<String> named(String name) {
      return made.get(name);
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return Optional.of(
          new ObservedAccount(accountId, null, true, new TreeMap<>(), new TreeSet<>(members)));
    }

    @Override
    public Optional<EarlierItems> earlierItems() {
      return Optional.of(
          new EarlierItems() {
            @Override
            public List<Item> of(String group, int limit) {
              return made.keySet().stream().limit(limit).map(Crew::item).toList();
            }

            @Override
            public List<Stray> strays(String group, Optional<String> accountId, int limit) {
              var id = accountId.orElseThrow();
              return made.entrySet().stream()
                  .filter(one -> one.getValue().contains(id) != members.contains(id))
                  .limit(limit)
                  .map(one -> new Stray(item(one.getKey()), id, one.getValue().contains(id)))
                  .toList();
            }

            @Override
            public void name(String group, String item, String accountId, boolean isNamed) {
              if (isObedient && isNamed) {
                made.get(item).add(accountId);
              } else if (isObedient) {
                made.get(item).remove(accountId);
              }
            }
          });
    }

    private static EarlierItems.Item item(String name) {
      return new EarlierItems.Item(name, "meeting", name);
    }
  }

  private record Plain() implements NarrowConnector {
    @Override
    public Optional<ObservedAccount> find(String accountId) {
      throw new AssertionError("Not asked here");
    }
  }

  /** Knows of a part for earlier items, and does not answer when it is asked. */
  private record Silent() implements NarrowConnector {
    @Override
    public Optional<ObservedAccount> find(String accountId) {
      throw new AssertionError("Not asked here");
    }

    @Override
    public Optional<EarlierItems> earlierItems() {
      return Optional.of(
          new EarlierItems() {
            @Override
            public List<Item> of(String group, int limit) throws Unreachable {
              throw new Unreachable(NOT_THERE, null);
            }

            @Override
            public List<Stray> strays(String group, Optional<String> accountId, int limit)
                throws Unreachable {
              throw new Unreachable(NOT_THERE, null);
            }

            @Override
            public void name(String group, String item, String accountId, boolean isNamed)
                throws Unreachable {
              throw new Unreachable(NOT_THERE, null);
            }
          });
    }
  }
}
