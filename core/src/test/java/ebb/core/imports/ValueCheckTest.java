package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.imports.ValueCheck.Bad;
import ebb.core.imports.ValueCheck.Good;
import ebb.core.person.Attribute;
import ebb.core.person.Attribute.Type;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.problem.Where;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ValueCheckTest {
  private static final Where WHERE = Where.cell("hr.csv", 7, "Column");
  private static final ValueCheck CHECK =
      new ValueCheck(
          Catalogue.with(
              List.of(
                  own("berth", Type.NUMBER, List.of()),
                  own("diver", Type.YES_NO, List.of()),
                  own("watch", Type.CHOICE, List.of("Day", "Night")))),
          "d.M.uuuu");

  @DataProvider
  Object[][] good() {
    return new Object[][] {
      {"name.givenName", "Zoë", "Zoë"},
      {"name.givenName", "=1+1", "=1+1"},
      {"name.familyName", "محمود", "محمود"},
      {"name.familyName", "O’Néill-Ng", "O’Néill-Ng"},
      {"startDate", "1.3.2027", "2027-03-01"},
      {"startDate", "29.2.2028", "2028-02-29"},
      {"startDate", "2027-03-01", "2027-03-01"},
      {"emails.home", "a.b+c@post.example", "a.b+c@post.example"},
      {"phoneNumbers.mobile", "+99 (555) 01-00", "+99 (555) 01-00"},
      {"timezone", "Europe/Oslo", "Europe/Oslo"},
      {"berth", "12", "12"},
      {"berth", "-3,5", "-3.5"},
      {"diver", "Ja", "true"},
      {"diver", "0", "false"},
      {"watch", "night", "Night"},
    };
  }

  @Test(dataProvider = "good")
  public void aGoodValueIsKeptInOneForm(String attribute, String text, String expected) {
    assertThat(CHECK.of(attribute, text, WHERE)).isEqualTo(new Good(expected));
  }

  @DataProvider
  Object[][] bad() {
    return new Object[][] {
      {"name.givenName", "Ida\u200Bx", "value-deceptive"},
      {"name.givenName", "Ida\u202Egnp", "value-deceptive"},
      {"name.givenName", "I\u0000da", "value-deceptive"},
      {"name.givenName", "Jos\uFFFD", "value-deceptive"},
      {"title", "#REF!", "cell-error"},
      {"title", "#DIV/0!", "cell-error"},
      {"title", "x".repeat(1_001), "value-too-long"},
      {"startDate", "31.2.2027", "date-invalid"},
      {"startDate", "29.2.2027", "date-invalid"},
      {"startDate", "2027-02-30", "date-invalid"},
      {"startDate", "3/31/2027", "date-invalid"},
      {"startDate", "45000", "date-invalid"},
      {"emails.home", "ida@post", "mail-address-invalid"},
      {"emails.home", "ida post.example", "mail-address-invalid"},
      {"emails.home", "a@b@post.example", "mail-address-invalid"},
      {"phoneNumbers.mobile", "ask her", "telephone-number-invalid"},
      {"phoneNumbers.mobile", "123", "telephone-number-invalid"},
      {"timezone", "Oslo", "time-zone-invalid"},
      {"berth", "twelve", "number-invalid"},
      {"berth", "1.23E+10", "number-invalid"},
      {"diver", "perhaps", "yes-or-no-invalid"},
      {"watch", "Dawn", "choice-unknown"},
    };
  }

  @Test(dataProvider = "bad")
  public void aBadValueIsSaidWithItsPlaceAndWhatToDo(String attribute, String text, String code) {
    var checked = CHECK.of(attribute, text, WHERE);

    assertThat(checked).isInstanceOf(Bad.class);
    var problem = ((Bad) checked).problem();
    assertThat(problem.code()).isEqualTo(code);
    assertThat(problem.where()).isEqualTo(WHERE);
    assertThat(problem.what()).isNotBlank();
    assertThat(problem.why()).isNotBlank().isNotEqualTo(problem.what());
    assertThat(problem.remedy()).isNotBlank();
  }

  @DataProvider
  Object[][] numbers() {
    return new Object[][] {
      {"1.23E+10", true},
      {"1,2e+15", true},
      {"7E+03", true},
      {"12300000000", false},
      {"E+10", false}
    };
  }

  @Test(dataProvider = "numbers")
  public void aNumberThatASpreadsheetRoundedIsKnown(String text, boolean isMangled) {
    assertThat(ValueCheck.isMangledNumber(text)).isEqualTo(isMangled);
  }

  private static Attribute own(String name, Type type, List<String> choices) {
    return new Attribute(name, type, false, null, true, ByHand.ALLOWED, choices, true);
  }
}
