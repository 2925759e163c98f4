package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Reading;
import ebb.core.application.Sessions;
import ebb.core.application.Sightings;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class ShutOffTest {
  private static final Problem NOT_THERE =
      new Problem("not-there", "There is no such account.", "It answered so.", "Look again.", null);

  @Test
  public void anAccountDeletedBehindOurBackIsShut() {
    assertThat(ShutOff.apply(new Silent(Optional.empty()), "ada"))
        .isEqualTo(new Outcome.AlreadyInPlace(Optional.empty()));
  }

  @Test
  public void anAccountThatIsThereAndCannotBeAskedAboutIsTriedAgain() {
    var ada = new ObservedAccount("ada", null, true, new TreeMap<>(), new TreeSet<>());

    assertThat(ShutOff.apply(new Silent(Optional.of(ada)), "ada"))
        .isEqualTo(new Outcome.RetryLater(null, NOT_THERE));
  }

  /** Knows its accounts, and nothing of their sessions. */
  private record Silent(Optional<ObservedAccount> account) implements Connector {
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

    @Override
    public Capabilities capabilities() {
      return Capabilities.UNKNOWN;
    }

    @Override
    public Inspection inspect() {
      throw new UnsupportedOperationException();
    }

    @Override
    public Reading read(String since, Sightings to) {
      throw new UnsupportedOperationException();
    }

    @Override
    public Optional<ObservedAccount> findByExternalId(String externalId) {
      return Optional.empty();
    }

    @Override
    public Outcome apply(Instruction instruction) {
      throw new UnsupportedOperationException();
    }

    @Override
    public void close() {}
  }
}
