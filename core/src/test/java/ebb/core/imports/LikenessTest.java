package ebb.core.imports;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.imports.Likeness.Known;
import ebb.core.imports.NameLikeness.Name;
import java.util.HashMap;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LikenessTest {
  private static final Map<String, String> ROW =
      Map.of(
          "name.givenName",
          "Mirela",
          "name.familyName",
          "HALDANE ROE",
          "phoneNumbers.mobile",
          "+47 555 (11071)");

  @Test
  public void theSameNameAndNumberMakeARowDoubtful() {
    var known = known(Map.of("phoneNumbers.mobile", "0047 55511071"));

    assertThat(Likeness.between(ROW, known))
        .hasValueSatisfying(
            like ->
                assertThat(like.reasons())
                    .containsExactly("the same mobile number", "the same name"));
  }

  @Test
  public void namesakesAreNotDoubtful() {
    assertThat(Likeness.between(ROW, known(Map.of()))).isEmpty();
    assertThat(Likeness.near(ROW, known(Map.of()))).as("unless nobody new is expected").isPresent();
  }

  @Test
  public void somebodyWhoVanishedAtTheSameTimeIsDoubtful() {
    var vanished = new Known(known(Map.of()).person(), true, false, false);

    assertThat(Likeness.between(ROW, vanished)).isPresent();
  }

  @Test
  public void somebodyWhoLeftMayBeComingBack() {
    var departed = new Known(known(Map.of()).person(), false, false, true);

    assertThat(Likeness.between(ROW, departed).orElseThrow().reasons())
        .contains("has left, and may be coming back");
  }

  @Test
  public void whoHasARowOfTheirOwnIsLessLikely() {
    var alone = known(Map.of("phoneNumbers.mobile", "55511071"));
    var named = new Known(alone.person(), false, true, false);

    assertThat(Likeness.between(ROW, named).orElseThrow().score())
        .isLessThan(Likeness.between(ROW, alone).orElseThrow().score());
  }

  @Test
  public void aRowThatSaysNothingIsLikeNobody() {
    assertThat(Likeness.clues(Map.of())).isEmpty();
    assertThat(Likeness.between(Map.of(), known(Map.of()))).isEmpty();
  }

  @DataProvider
  Object[][] names() {
    return new Object[][] {
      {"Ida Maria", "Holm", "ida maria", "HOLM", "SAME"},
      {"Holm", "Ida", "Ida", "Holm", "SWAPPED"},
      {"Bob", "Marwick", "Robert", "Marwick", "SHORT_FORM"},
      {"Alex", "Marwick", "Alexandra", "Marwik", "SHORT_FORM"},
      {"R.", "Marwick", "Robert", "Marwick", "SHORT_FORM"},
      {"Anna", "Holm", "Anna Lisa", "Holm-Vik", "PART"},
      {"Ingeborg", "Sorensen", "Ingebrog", "Sørensne", "SPELLING"},
      {"Per", "Marchetti", "Per", "Marketti", "SPELLING"},
      {"Ida", "Holm", "Ida", "Tangen", "OTHER_FAMILY_NAME"},
      {"Ida", "Holm", "Per", "Holm", "OTHER_GIVEN_NAME"},
      {"Ida", "Holm", "Per", "Vik", "NONE"},
      {"Bo", "Li", "Bi", "Lo", "NONE"},
    };
  }

  @Test(dataProvider = "names")
  public void namesAreAlikeInThisWay(
      String given, String family, String otherGiven, String otherFamily, String how) {
    var one = Name.of(given, family);
    var other = Name.of(otherGiven, otherFamily);
    assertThat(NameLikeness.between(one, other)).isEqualTo(NameLikeness.valueOf(how));
    assertThat(NameLikeness.between(other, one)).isEqualTo(NameLikeness.valueOf(how));
  }

  @Test
  public void anExchangeOfTwoLettersIsOneSlip() {
    assertThat(NameLikeness.distance("holm", "hlom")).isEqualTo(1);
    assertThat(NameLikeness.distance("holm", "holmes")).isEqualTo(2);
    assertThat(NameLikeness.distance("", "vik")).isEqualTo(3);
  }

  private static Known known(Map<String, String> more) {
    var values =
        new HashMap<>(Map.of("name.givenName", "Mirela", "name.familyName", "Haldane-Roe"));
    values.putAll(more);
    return new Known(person(1, values), false, false, false);
  }
}
