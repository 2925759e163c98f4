package ebb.core.name;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.Person;
import java.util.HashSet;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class LoginSchemeTest {
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
    var login = LoginScheme.allocate(named(given, family), _ -> true);

    assertThat(login).startsWith(expected).matches("[a-z0-9.-]{1,20}");
  }

  @Test
  public void numbersThoseWhoShareAName() {
    var taken = new HashSet<String>();
    for (int i = 0; i < 120; i++) {
      var login =
          LoginScheme.allocate(named("Maximiliana", "Wolstenholme"), name -> !taken.contains(name));
      assertThat(login.length()).isLessThanOrEqualTo(LoginScheme.LONGEST);
      assertThat(taken.add(login)).isTrue();
      assertThat(LoginScheme.fits(login, named("Maximiliana", "Wolstenholme"))).as(login).isTrue();
    }
  }

  @Test
  public void givesNobodyAMailboxThatEveryDomainHas() {
    assertThat(LoginScheme.allocate(named("", "Postmaster"), _ -> true)).isEqualTo("postmaster2");
    assertThat(LoginScheme.mayBeChosen("abuse")).isFalse();
    assertThat(LoginScheme.mayBeFound("abuse")).as("found there, it is somebody's").isTrue();
  }

  @Test
  public void noLongerFitsAfterARename() {
    assertThat(LoginScheme.fits("anna.lindtarn", named("Anna", "Lindtarn"))).isTrue();
    assertThat(LoginScheme.fits("anna.lindtarn2", named("Anna", "Lindtarn"))).isTrue();
    assertThat(LoginScheme.fits("anna.lindtarn", named("Anna", "Brightwater"))).isFalse();
    assertThat(LoginScheme.fits("anna.lind", named("Anna", "Lindtarn"))).isFalse();
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
