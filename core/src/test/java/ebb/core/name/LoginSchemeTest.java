package ebb.core.name;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.Person;
import ebb.core.rule.Expressions;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LoginSchemeTest {
  private static final LoginScheme.Texts NONE = (_, _) -> Optional.empty();

  @DataProvider
  Object[][] names() {
    return new Object[][] {
      {"Ida", "Holm", "ida.holm"},
      {"Anne-Lise", "O’Skerry", "anne.oskerry"},
      {"Þóra", "Sørbråten", "thora.sorbraten"},
      {"Дарья", "Морская", "darya.morskaya"},
      {"美咲", "海野", "mei.hai-ye"},
      {"Maximiliana", "Wolstenholme-Featherbridge", "maximiliana.wolsten"},
      {"", "Holm", "holm"},
    };
  }

  @Test(dataProvider = "names")
  public void foldsNamesOfAnyScript(String given, String family, String expected) {
    var login = LoginScheme.USUAL.allocate(named(given, family), NONE, _ -> true);

    assertThat(login).startsWith(expected).matches("[a-z0-9.-]{1,20}");
  }

  @Test
  public void numbersThoseWhoShareAName() {
    var taken = new HashSet<String>();
    for (int i = 0; i < 120; i++) {
      var login =
          LoginScheme.USUAL.allocate(
              named("Maximiliana", "Wolstenholme"), NONE, name -> !taken.contains(name));
      assertThat(login.length()).isLessThanOrEqualTo(LoginScheme.USUAL.longest());
      assertThat(taken.add(login)).isTrue();
      assertThat(LoginScheme.USUAL.fits(login, named("Maximiliana", "Wolstenholme"), NONE))
          .as(login)
          .isTrue();
    }
  }

  @Test
  public void givesNobodyAMailboxThatEveryDomainHas() {
    assertThat(LoginScheme.USUAL.allocate(named("", "Postmaster"), NONE, _ -> true))
        .isEqualTo("postmaster2");
    assertThat(LoginScheme.USUAL.mayBeChosen("abuse")).isFalse();
    assertThat(LoginScheme.mayBeFound("abuse")).as("found there, it is somebody's").isTrue();
  }

  @Test
  public void noLongerFitsAfterARename() {
    assertThat(LoginScheme.USUAL.fits("anna.lindtarn", named("Anna", "Lindtarn"), NONE)).isTrue();
    assertThat(LoginScheme.USUAL.fits("anna.lindtarn2", named("Anna", "Lindtarn"), NONE)).isTrue();
    assertThat(LoginScheme.USUAL.fits("anna.lindtarn", named("Anna", "Brightwater"), NONE))
        .isFalse();
    assertThat(LoginScheme.USUAL.fits("anna.lind", named("Anna", "Lindtarn"), NONE)).isFalse();
  }

  @Test
  public void takesTheFirstThatIsFreeOfWhatItsExpressionsGive() {
    var expressions = new Expressions();
    var scheme =
        new LoginScheme(
            1,
            List.of(
                "fold(person.name.givenName).substring(0, 1) + fold(person.name.familyName)",
                "person.nickName",
                "person.name.familyName + '.' + person.name.givenName"),
            12,
            new TreeSet<>(Set.of("itern")),
            0);
    var texts = (LoginScheme.Texts) expressions::textOfPerson;
    var taken = new HashSet<String>();

    var given =
        Stream.generate(
                () -> scheme.allocate(named("Ida", "Tern"), texts, name -> !taken.contains(name)))
            .peek(taken::add)
            .limit(3)
            .toList();

    assertThat(given)
        .as("one reserved, one missing; points stay, and only the first is numbered")
        .containsExactly("tern.ida", "itern2", "itern3");
    assertThat(scheme.allocate(named("Þóra", "Sørbråten-Å"), texts, _ -> true))
        .isEqualTo("tsorbraten-a");
    assertThat(scheme.fits("itern3", named("Ida", "Tern"), texts)).isTrue();
    assertThat(scheme.fits("tern.ida", named("Ida", "Tern"), texts)).isTrue();
    assertThat(scheme.fits("itern3", named("Ida", "Gull"), texts)).isFalse();
    assertThat(scheme.allocate(named("", ""), texts, _ -> true)).isEqualTo("person5");
  }

  @Test
  public void comparesNamesWhateverTheirSpelling() {
    assertThat(Folding.forComparing("Haldane-Roe"))
        .isEqualTo(Folding.forComparing(" HALDANE  ROE"));
    assertThat(Folding.forComparing("Núñez")).isEqualTo(Folding.forComparing("Nunez"));
  }

  private static Person named(String given, String family) {
    return person(5, Map.of("name.givenName", given, "name.familyName", family));
  }
}
