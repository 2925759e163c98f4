package ebb.core.imports;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.testng.annotations.Test;

public class LikenessTest {
  private static final Map<String, String> ROW =
      Map.of(
          "name.givenName",
          "Mirela",
          "name.familyName",
          "HALDANE ROE",
          "phoneNumbers.mobile",
          "+47 555 (1107)");

  @Test
  public void theSameNameAndNumberMakeARowDoubtful() {
    var known =
        person(
            1,
            Map.of(
                "name.givenName",
                "Mirela",
                "name.familyName",
                "Haldane-Roe",
                "phoneNumbers.mobile",
                "+47 555 1107"));

    assertThat(Likeness.between(ROW, known, false))
        .hasValueSatisfying(
            like ->
                assertThat(like.reasons())
                    .containsExactly("the same name", "the same mobile number"));
    assertThat(Likeness.blockingKey(ROW)).isEqualTo(Likeness.blockingKey("mirela", "Haldane-Roe"));
  }

  @Test
  public void namesakesAreNotDoubtful() {
    var namesake = person(1, Map.of("name.givenName", "Mirela", "name.familyName", "Haldane-Roe"));

    assertThat(Likeness.between(ROW, namesake, false)).isEmpty();
  }

  @Test
  public void somebodyWhoVanishedAtTheSameTimeIsDoubtful() {
    var vanished = person(1, Map.of("name.givenName", "Mirela", "name.familyName", "Haldane-Roe"));

    assertThat(Likeness.between(ROW, vanished, true)).isPresent();
  }
}
