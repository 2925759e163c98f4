package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Sessions;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class ShutOffTest {
  private static final Problem NOT_THERE =
      new Problem("not-there", "There is no such account.", "It answered so.", "Look again.", null);

  @Test
  public void anAccountDeletedBehindOurBackIsShut() {
    assertThat(ShutOff.apply(new Silent(Optional.empty()), "ada", null))
        .isEqualTo(new Outcome.AlreadyInPlace(Optional.empty()));
  }

  @Test
  public void anAccountThatIsThereAndCannotBeAskedAboutIsTriedAgain() {
    var ada = new ObservedAccount("ada", null, true, new TreeMap<>(), new TreeSet<>());

    assertThat(ShutOff.apply(new Silent(Optional.of(ada)), "ada", null))
        .isEqualTo(new Outcome.RetryLater(null, NOT_THERE));
  }

  @Test
  public void oneWayInIsShutWithoutTheOthers() {
    var house = new TwoWays(new TreeSet<>(Set.of("phone", "laptop")));

    ShutOff.apply(house, "ada", "phone");
    assertThat(house.open()).containsExactly("laptop");

    ShutOff.apply(house, "ada", null);
    assertThat(house.open()).isEmpty();
  }

  /** Has one account, with ways in that are shut one by one. */
  private record TwoWays(SortedSet<String> open) implements NarrowConnector {
    @Override
    public Optional<WaysIn> waysIn() {
      return Optional.of(
          new WaysIn() {
            @Override
            public List<Way> open(String accountId) {
              return open.stream().map(id -> new Way(id, "token", id)).toList();
            }

            @Override
            public void shut(String accountId, String way) {
              open.remove(way);
            }
          });
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return Optional.of(
          new ObservedAccount(accountId, null, false, new TreeMap<>(), new TreeSet<>()));
    }
  }

  /** Knows its accounts, and nothing of their sessions. */
  private record Silent(Optional<ObservedAccount> account) implements NarrowConnector {
    @Override
    public Optional<Sessions> sessions() {
      return Optional.of(
          new Sessions() {
            @Override
            public int open(String accountId) throws Unreachable {
              throw new Unreachable(NOT_THERE, null);
            }

            @Override
            public void end(String accountId) throws Unreachable {
              throw new Unreachable(NOT_THERE, null);
            }
          });
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return account;
    }
  }
}
