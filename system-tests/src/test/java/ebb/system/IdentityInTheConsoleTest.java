package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Who is who and who has the say, decided in the browser beside the evidence. */
public class IdentityInTheConsoleTest extends InTheBrowser {
  private Lists lists;

  @BeforeClass(dependsOnMethods = "startService")
  public void bringIn() throws Exception {
    lists = new Lists(stage, client);
    lists.crew("crew", 100);
    lists.crew("pay", 50);
    lists.release(
        lists.bringCrew(
            "crew",
            "1,Holm,Ida,employee,+47 555 10001,Mate",
            "2,Tangen,Nora,employee,+47 555 10002,Cook",
            "3,Vik,Per,employee,+47 555 10003,Bosun"));
    var made =
        lists.bringCrew(
            "pay",
            "P1,Holm,Ida,employee,+47 555 10001,Second mate",
            "P2,Tangen,Nora,employee,+47 555 10002,Cook",
            "P3,Vik,Per,employee,+47 555 10003,Bosun");
    client.done("imports", "answer", Lists.id(made), "2", "same:" + lists.person("Holm"));
    client.done("imports", "answer", Lists.id(made), "3", "same:" + lists.person("Tangen"));
    client.done("imports", "answer", Lists.id(made), "4", "new");
    lists.release(made);
  }

  @Test
  public void whomToBelieveIsOneKeyBesideWhatEachSourceSays() {
    page.navigate("/now");
    page.getByText("Sources do not agree on one value").click();
    assertThat(page.locator(".desk")).containsText("Second mate");
    assertThat(page.locator(".desk")).containsText("holds now");
    isAccessible();
    page.locator(".desk").focus();
    page.keyboard().press("1");

    assertThat(page.getByText("All sources agree, or somebody said whom to believe")).isVisible();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void recordsAreMadeOneAndPartedBesideTheEvidence() throws Exception {
    twoRecordsAreComparedAndMadeOneWithOneKey();
    aKeyThatIsSomebodyElsesIsPartedFromThePersonsOwnPage();
  }

  private void twoRecordsAreComparedAndMadeOneWithOneKey() throws Exception {
    page.navigate("/who/duplicates");
    assertThat(page.locator(".desk")).containsText("the same mobile number");
    isAccessible();
    page.locator(".desk").focus();
    page.keyboard().press("1");

    assertThat(page.locator("h1")).containsText("are one: Per Vik");
    act("Release for 2 people");
    client.settle();
    page.navigate("/who/duplicates");
    assertThat(page.getByText("No two records are much alike")).isVisible();
  }

  private void aKeyThatIsSomebodyElsesIsPartedFromThePersonsOwnPage() throws Exception {
    page.navigate("/who/" + lists.person("Tangen") + "?tab=who");
    isAccessible();
    act("P2 of pay is somebody else");
    act("Show what parting P2 changes");

    assertThat(page.locator("h1")).containsText("P2 of pay is not Nora Tangen but somebody else");
    act("Release for 2 people");
    client.settle();
    assertThat(
            client.json("people", "list", "--filter=name.familyName eq \"Tangen\"").path("items"))
        .hasSize(2);
  }

  @Test
  public void howAnAttributeIsSetByHandIsChosenWhereAllAreListed() {
    page.navigate("/why/attributes");
    page.getByLabel("Who sets Place").click();
    page.getByText("operators may, up to a day").last().click();
    assertThat(page.getByLabel("Who sets Place")).containsText("up to a day");
    isAccessible();

    page.navigate("/who/" + lists.person("Holm"));
    act("Edit");
    page.locator("#e-location").fill("Quay");
    act("Show what it would change");
    assertThat(page.getByText("location is set by hand up to a day only")).isVisible();
    page.getByLabel("Up to and with").fill("2099-12-31");
    act("Show what it would change");
    assertThat(page.locator("h1")).containsText("Edit of Ida Holm");
  }
}
