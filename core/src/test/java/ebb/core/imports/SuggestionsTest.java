package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.imports.Suggestions.Column;
import ebb.core.person.Attribute;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class SuggestionsTest {
  @DataProvider
  Object[][] languages() {
    return new Object[][] {
      {"English", "Staff no.,Surname,First name,Unit,First day,Private e-mail,Line manager"},
      {"German", "Personal-Nr.,Nachname,Vorname,Abteilung,Eintritt,E-Mail privat,Vorgesetzter"},
      {"French", "Matricule,Nom,Prénom,Service,Date d'entrée,Mail personnel,Responsable"},
      {"Spanish", "Número,Apellidos,Nombre,Departamento,Fecha de alta,Correo personal,Jefe"},
      {"Norwegian", "Ansattnr,Etternavn,Fornavn,Avdeling,Startdato,Privat e-post,Leder"},
      {
        "Dutch",
        "Personeelsnummer,Achternaam,Voornaam,Afdeling,Startdatum,Privé e-mail,Leidinggevende"
      },
    };
  }

  @Test(dataProvider = "languages")
  public void headingsAreUnderstoodInSeveralLanguages(String language, String headings) {
    var suggested =
        suggest(
            headings,
            "007,Holm,Ida,Deck,2027-03-14,ida@post.example,008",
            "008,Vik,Per,Engine,2027-04-01,per@post.example,");

    assertThat(suggested.key()).as(language).isEqualTo(headings.split(",")[0]);
    assertThat(attributes(suggested))
        .containsSubsequence(
            "name.familyName",
            "name.givenName",
            "department",
            "startDate",
            "emails.home",
            "manager");
    assertThat(suggested.columns()).allSatisfy(column -> assertThat(column.reason()).isNotBlank());
  }

  @Test
  public void everyHeadingOfATemplateIsUnderstood() {
    var labels =
        Catalogue.STANDARD.all().stream()
            .map(attribute -> Suggestions.label(attribute.name()) + " *")
            .toList();

    var suggested = Suggestions.of(labels, List.of(), Catalogue.STANDARD, Set.of());

    assertThat(attributes(suggested))
        .containsExactlyElementsOf(Catalogue.STANDARD.all().stream().map(Attribute::name).toList());
  }

  @Test
  public void valuesTellWhereAHeadingDoesNot() {
    var suggested =
        suggest(
            "No,A,B,C", "7,ida@post.example,2027-03-14,Deck", "8,per@post.example,2027-04-01,Deck");

    assertThat(byHeading(suggested).get("A").attribute()).isEqualTo("emails.home");
    assertThat(byHeading(suggested).get("C").attribute()).isEqualTo("department");
    assertThat(byHeading(suggested).get("C").reason()).contains("values look like it");
  }

  @Test
  public void aHeadingThatItsValuesContradictIsLeftToSomebody() {
    var suggested = suggest("No,Private mail", "7,Sandvika", "8,Elvnes");

    assertThat(byHeading(suggested).get("Private mail").confidence())
        .isLessThan(Suggestions.SURE_ENOUGH);
    assertThat(suggested.mapping().ignored()).contains("Private mail");
  }

  @Test
  public void aFewValuesThatAreAmissDoNotHideAColumnThatIsCalledSo() {
    var suggested = suggest("No,Private mail", "7,none", "8,per@post.example");

    assertThat(byHeading(suggested).get("Private mail").attribute()).isEqualTo("emails.home");
    assertThat(byHeading(suggested).get("Private mail").reason()).contains("only some");
  }

  @Test
  public void twoColumnsNeverFillOneAttribute() {
    var suggested = suggest("No,Last name,Surname", "7,Holm,Holm", "8,Vik,Vik");

    assertThat(attributes(suggested)).containsExactly("employeeNumber", "name.familyName");
  }

  @Test
  public void aColumnOfFormerNumbersIsNotTakenForTheKey() {
    var suggested = suggest("Former staff number,Staff number,Surname", "3,7,Holm", "4,8,Vik");

    assertThat(suggested.key()).isEqualTo("Staff number");
    assertThat(byHeading(suggested).get("Former staff number").attribute())
        .isEqualTo(Mapping.FORMER_KEY);
    assertThat(byHeading(suggested).get("Staff number").attribute()).isEqualTo("employeeNumber");
  }

  @Test
  public void aNumberThatStandsTwiceIsNoKey() {
    assertThat(suggest("Staff no,Name", "7,Ida", "7,Per").key()).isNull();
    assertThat(suggest("Staff no,Name", "7,Ida", ",Per").key()).isNull();
  }

  @DataProvider
  Object[][] dates() {
    return new Object[][] {
      {List.of("2027-03-01"), List.of("uuuu-MM-dd")},
      {List.of("31.3.2027", "1.4.2027"), List.of("d.M.uuuu")},
      {List.of("31/03/2027", "01/04/2027"), List.of("d/M/uuuu")},
      {List.of("03/31/2027", "01/04/2027"), List.of("M/d/uuuu")},
      {List.of("20270331"), List.of("uuuuMMdd")},
      {List.of("03/04/2027", "05/06/2027"), List.of("d/M/uuuu", "M/d/uuuu")},
      {List.of("31/03/2027", "03/31/2027"), List.of()},
      {List.of("31.3.2027", "31.2.2027", "1.4.2O27"), List.of("d.M.uuuu")},
      {List.of("2027-03-01", "31.3.2027"), List.of("d.M.uuuu")},
    };
  }

  @Test(dataProvider = "dates")
  public void theOrderOfADateIsToldOnlyWhereOneAloneFits(List<String> dates, List<String> formats) {
    var rows = new ArrayList<String>();
    for (int i = 0; i < dates.size(); i++) {
      rows.add(i + "," + dates.get(i));
    }

    assertThat(suggest("No,First day", rows.toArray(String[]::new)).dateFormats())
        .isEqualTo(formats);
  }

  @Test
  public void ownAttributesAreSuggestedByNameAndChoices() {
    var campus =
        new Attribute(
            "campus",
            Attribute.Type.CHOICE,
            false,
            null,
            true,
            ByHand.ALLOWED,
            List.of("North", "South"),
            true);
    var rows = List.of(new Row(2, List.of("7", "North")), new Row(3, List.of("8", "South")));

    var suggested =
        Suggestions.of(List.of("No", "Where"), rows, Catalogue.with(List.of(campus)), Set.of());

    assertThat(byHeading(suggested).get("Where").attribute()).isEqualTo("campus");
  }

  private static Suggestions.Suggested suggest(String headings, String... rows) {
    var sample = new ArrayList<Row>();
    for (int i = 0; i < rows.length; i++) {
      sample.add(new Row(i + 2, Arrays.asList(rows[i].split(",", -1))));
    }
    return Suggestions.of(
        List.of(headings.split(",")), sample, Catalogue.STANDARD, Set.of("Deck", "Engine"));
  }

  private static List<String> attributes(Suggestions.Suggested suggested) {
    return suggested.columns().stream()
        .map(Column::attribute)
        .filter(attribute -> attribute != null)
        .toList();
  }

  private static Map<String, Column> byHeading(Suggestions.Suggested suggested) {
    return suggested.columns().stream()
        .collect(Collectors.toMap(Column::heading, Function.identity()));
  }
}
