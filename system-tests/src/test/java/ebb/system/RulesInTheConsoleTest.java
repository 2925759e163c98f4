package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Files;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** A rule in the browser: built, rehearsed, released. */
public class RulesInTheConsoleTest extends InTheBrowser {
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";

  @BeforeClass(dependsOnMethods = "startService")
  public void bringPeople() throws Exception {
    var file = new StringBuilder(HEADINGS);
    for (int i = 0; i < 6; i++) {
      file.append(
          "V%d,Vesper%d,Ida,Mate,%s,Skerrow,,employee,v%d@post.example,,05.01.2026,,M1\n"
              .formatted(i, i, i < 4 ? "Deck" : "Catering", i));
    }
    var path = Files.writeString(stage.home().resolve("files/people.csv"), file);
    var made = client.json("imports", "add", path.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
  }

  private String rule() {
    return client.json("rules", "show", "mail-for-employees").path("condition").asString();
  }

  @Test
  public void aRuleIsNarrowedWithoutCelSeenInItsEffectAndReleasedInTwoActs() throws Exception {
    page.navigate("/why");
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Who gets what: rules"))
        .click();
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("mail-for-employees"))
        .click();
    assertThat(page.getByText("of 6 people today")).isVisible();
    isAccessible();

    button("Add a comparison").click();
    page.getByLabel("Value", new Page.GetByLabelOptions().setExact(true)).nth(1).fill("Deck");
    page.keyboard().press("Tab");
    assertThat(page.getByText("Everyone whose kind is not contractor, and whose unit is Deck."))
        .isVisible();
    assertThat(page.getByText("4 of 6 people today")).isVisible();
    page.getByLabel("For how many people it is expected").fill("2");
    act("Show what follows");

    assertThat(page.getByText("It is not in force")).isVisible();
    assertThat(page.locator("main")).containsText("suspend, and begin closing");
    assertThat(rule()).doesNotContain("Deck");
    isAccessible();
    act("Release for 2 people");
    waitUntil("the rule is in force", () -> rule().contains("Deck"));
    assertThat(acts).isEqualTo(2);
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("ida.vesper5").path("active").asBoolean())
        .isFalse();
    assertThat(stage.mailHouse().accounts().byName("ida.vesper3").path("active").asBoolean())
        .isTrue();
  }

  @Test
  public void whatIsWrongIsSaidAsItIsTyped() {
    page.navigate("/why/rules/directory-for-all");
    button("As CEL").click();
    page.getByLabel("Condition").fill("person.departmnt == 'Deck'");
    assertThat(page.getByText("People have no attribute departmnt")).isVisible();
    page.getByLabel("Condition").fill("1 / (size(person.title) - 4) > 7");
    assertThat(page.getByText("It cannot be computed for 6 people")).isVisible();
    assertThat(button("Built")).isDisabled();
  }
}
