package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.References;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class LookFirstTest {
  private static final Instruction RENAME =
      new Instruction.Update("7", new TreeMap<>(Map.of("userName", List.of("chief"))));

  /** In which the account is as it should be. */
  private static final class There implements NarrowConnector {
    final List<Instruction> sent = new ArrayList<>();
    private final boolean follow;

    There(boolean follow) {
      this.follow = follow;
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return Optional.of(
          new ObservedAccount(
              accountId,
              "ebb-7",
              true,
              new TreeMap<>(Map.of("userName", List.of("chief"))),
              new TreeSet<>()));
    }

    @Override
    public Outcome apply(Instruction instruction) {
      sent.add(instruction);
      return new Outcome.Applied(find("7"));
    }

    @Override
    public Optional<References> references() {
      return Optional.of(
          new References() {
            @Override
            public List<Reference> to(String accountId) throws Unreachable {
              return List.of();
            }

            @Override
            public boolean followOn(Instruction instruction) {
              return follow;
            }
          });
    }
  }

  @Test
  public void whatIsThereIsNotSentAgain() {
    var application = new There(false);

    assertThat(LookFirst.apply(application, RENAME)).isInstanceOf(Outcome.AlreadyInPlace.class);
    assertThat(application.sent).isEmpty();
  }

  @Test
  public void aRenameThatOthersHaveToFollowIsSentAgainThoughItIsThere() {
    var application = new There(true);

    assertThat(LookFirst.apply(application, RENAME)).isInstanceOf(Outcome.Applied.class);
    assertThat(application.sent).containsExactly(RENAME);
  }
}
