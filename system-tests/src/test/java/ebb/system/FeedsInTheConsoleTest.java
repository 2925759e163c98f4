package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import java.nio.file.Files;
import java.nio.file.Path;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** A standing source: in the browser, from nothing to accounts made by themselves. */
public class FeedsInTheConsoleTest extends InTheBrowser {
  private Path folder;

  @BeforeClass(dependsOnMethods = "startService")
  public void makeFolder() throws Exception {
    folder = Files.createDirectories(stage.home().resolve("in"));
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void aFeedIsSetUpInFourActsAndADoubtfulRowOfItIsDecidedWithOneKey() throws Exception {
    aStandingFeedIsSetUpTriedAndSwitchedOnInFourActs();
    aDoubtfulRowIsDecidedWithOneKeyBesideTheEvidence();
  }

  private void aStandingFeedIsSetUpTriedAndSwitchedOnInFourActs() throws Exception {
    Files.writeString(
        folder.resolve("crew.csv"),
        """
        Staff number;Family name;Given name;Kind;Mobile
        F1;Lindqvist;Ida;employee;+47 555 20001
        F2;Marchetti;Per;employee;+47 555 20002
        """);
    page.navigate("/where/feeds/new");
    page.getByLabel("Its name").fill("crew");
    page.getByLabel("Folder").fill(folder.toString());
    page.getByLabel("When it is expected").fill("0 30 5 * * *");
    act("Set it up as a draft");
    assertThat(page.getByText("a draft: nothing comes in by itself")).isVisible();
    act("Try it and map its columns");
    assertThat(page.getByText("It is not known yet what the columns")).isVisible();
    act("Read it so");
    assertThat(page.getByText("nothing of it is written")).isVisible();
    act("Switch feed crew on");

    assertThat(page.locator("main")).containsText("read and let through", PATIENTLY);
    client.settle();
    assertThat(acts).as("acts from nothing to a feed that is on").isLessThanOrEqualTo(4);
    assertThat(stage.mailHouse().accounts().byName("ida.lindqvist")).isNotNull();
    assertThat(client.json("changes", "list", "--state=shown").path("items"))
        .as("what was tried is given up")
        .isEmpty();
  }

  @Test
  public void whoeverPushesGetsATokenAndWhatTheySendComesInOnceItIsOn() throws Exception {
    page.navigate("/where/feeds/new");
    page.getByLabel("Its name").fill("pushed");
    page.getByLabel("How deliveries come").first().click();
    page.getByText("Sent to us over SCIM, as it changes").click();
    act("Set it up as a draft");
    assertThat(page.getByText("Whoever sends needs a token")).isVisible();
    act("Make its token");
    assertThat(page.getByText("The token is shown this once")).isVisible();
    var scim = new Scim(stage.url(), page.locator("code.secret").textContent());
    assertThat(scim.post("/Users", Scim.user("S1", "Sol", "Pushwell", "")).status()).isEqualTo(201);

    page.reload();
    assertThat(page.getByText("1 change waits until it is switched on")).isVisible();
    assertThat(page.locator("code.secret")).hasCount(0);
    act("Switch it on");
    assertThat(page.locator("main")).containsText("read and let through", PATIENTLY);
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("sol.pushwell")).isNotNull();
  }

  private void aDoubtfulRowIsDecidedWithOneKeyBesideTheEvidence() throws Exception {
    Files.writeString(
        folder.resolve("next.csv"),
        """
        Staff number;Family name;Given name;Kind;Mobile
        F1;Lindqvist;Ida;employee;+47 555 20001
        F7;Marketti;Per;employee;+47 555 20002
        """);
    page.navigate("/now");
    page.getByText("Decide about next.csv")
        .waitFor(new Locator.WaitForOptions().setTimeout(60_000));
    page.getByText("Decide about next.csv").click();
    assertThat(page.getByText("1 row waits for an answer")).isVisible();
    assertThat(page.locator(".desk")).containsText("a name that differs in a letter or two");
    assertThat(page.locator(".desk")).containsText("the same mobile number");
    page.locator(".desk").focus();
    page.keyboard().press("1");
    assertThat(page.getByText("Every row is answered")).isVisible();

    page.navigate("/now");
    page.getByText("Look and release").first().click();
    act("Release for 1 person");
    assertThat(page.locator("main")).containsText("released", PATIENTLY);
    client.settle();
    assertThat(stage.mailHouse().accounts().byName("per.marchetti")).isNull();
    assertThat(stage.mailHouse().accounts().byName("per.marketti")).isNotNull();
  }
}
