package ebb.core.execution;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Capabilities;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

public class StripTest {
  private static final Problem KEPT =
      new Problem("kept", "It is in that group by rule.", "It answered so.", "Look there.", null);

  @Test
  public void nothingIsLeftOfWhoseItWas() {
    var house = new House(Set.of());

    assertThat(Strip.apply(house, "ada", "former-7"))
        .isEqualTo(new Outcome.Applied(Optional.of(house.account)));
    assertThat(house.account.groups()).isEmpty();
    assertThat(house.account.seats()).isEmpty();
    assertThat(house.account.values())
        .containsEntry("userName", List.of("former-7"))
        .containsEntry("mail", List.of("former-7@stripped.invalid"))
        .as("what the application writes itself")
        .containsEntry("created", List.of("2020-01-01"))
        .doesNotContainKeys("title", "phone");
  }

  @Test
  public void strippingTwiceSendsNothingTheSecondTime() {
    var house = new House(Set.of());
    Strip.apply(house, "ada", "former-7");
    house.sent.clear();

    assertThat(Strip.apply(house, "ada", "former-7")).isInstanceOf(Outcome.Applied.class);
    assertThat(house.sent).isEmpty();
  }

  @Test
  public void whatIsStillThereAfterwardsIsNotTakenForDone() {
    var outcome = Strip.apply(new House(Set.of("phone")), "ada", "former-7");

    assertThat(outcome).isInstanceOf(Outcome.Met.class);
    assertThat(((Outcome.Met) outcome).problem().what()).contains("phone").doesNotContain("title");
  }

  @Test
  public void aGroupThatCannotBeLeftIsSaid() {
    assertThat(Strip.apply(new House(Set.of("crew")), "ada", "former-7"))
        .isEqualTo(new Outcome.Refused(KEPT));
  }

  @Test
  public void thereIsNothingToStripOfAnAccountThatIsGone() {
    var house = new House(Set.of());
    house.account = null;

    assertThat(Strip.apply(house, "ada", "former-7"))
        .isEqualTo(new Outcome.AlreadyInPlace(Optional.empty()));
  }

  /** Has one account, and does what it is told, but for what it keeps. */
  private static final class House implements NarrowConnector {
    private final Set<String> keeps;
    private final List<Instruction> sent = new ArrayList<>();
    private ObservedAccount account =
        new ObservedAccount(
            "ada",
            "ebb-1",
            false,
            new TreeMap<>(
                Map.of(
                    "userName", List.of("ada.holm"),
                    "mail", List.of("ada.holm@skerrow.example", "ada@skerrow.example"),
                    "title", List.of("Mate"),
                    "phone", List.of("12 34"),
                    "created", List.of("2020-01-01"))),
            new TreeSet<>(Set.of("crew", "bridge")),
            new TreeSet<>(Set.of("standard")));

    House(Set<String> keeps) {
      this.keeps = keeps;
    }

    @Override
    public Capabilities capabilities() {
      return new Capabilities(
          Set.of("userName", "mail", "title", "phone"),
          Set.of("userName", "mail", "created"),
          Map.of(),
          Set.of(Part.GROUPS, Part.SEATS),
          0,
          Duration.ZERO);
    }

    @Override
    public Outcome apply(Instruction instruction) {
      sent.add(instruction);
      return switch (instruction) {
        case Instruction.Leave(_, var group) when keeps.contains(group) ->
            new Outcome.Refused(KEPT);
        case Instruction.Leave(_, var group) -> {
          var left = new TreeSet<>(account.groups());
          left.remove(group);
          yield applied(account.inGroups(left));
        }
        case Instruction.FreeSeat(_, var seat) -> {
          var left = new TreeSet<>(account.seats());
          left.remove(seat);
          yield applied(account.in(left));
        }
        case Instruction.Update(var id, var values, _) -> {
          var now = new TreeMap<>(account.values());
          values.forEach(
              (name, texts) -> now.put(name, keeps.contains(name) ? now.get(name) : texts));
          now.values().removeIf(List::isEmpty);
          yield applied(
              new ObservedAccount(
                  id, account.externalId(), false, now, account.groups(), account.seats()));
        }
        default -> throw new IllegalArgumentException("Not asked of it: " + instruction);
      };
    }

    private Outcome applied(ObservedAccount now) {
      account = now;
      return new Outcome.Applied(Optional.of(now));
    }

    @Override
    public Optional<ObservedAccount> find(String accountId) {
      return Optional.ofNullable(account);
    }
  }
}
