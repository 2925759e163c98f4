package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** A standing source: in the browser, from nothing to accounts made by themselves. */
public class FeedsInTheConsoleTest {
  private static final LocatorAssertions.ContainsTextOptions PATIENTLY =
      new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

  private Stage stage;
  private Client client;
  private Chromium chromium;
  private BrowserContext context;
  private Page page;
  private Path folder;
  private int acts;
  private final List<String> said = new ArrayList<>();

  @BeforeClass
  public void start() throws Exception {
    stage = Services.start();
    chromium = new Chromium();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    folder = Files.createDirectories(stage.home().resolve("in"));
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    chromium.close();
    stage.close();
  }

  @BeforeMethod
  public void open() {
    context = chromium.fresh(stage.url(), ColorScheme.LIGHT, 1280, 800);
    page = context.newPage();
    page.onPageError(said::add);
    Chromium.signIn(page);
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    context.close();
    assertThat(said).isEmpty();
  }

  @Test
  public void aStandingFeedIsSetUpTriedAndSwitchedOnInFourActs() throws Exception {
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

  @Test(dependsOnMethods = "aStandingFeedIsSetUpTriedAndSwitchedOnInFourActs")
  public void aDoubtfulRowIsDecidedWithOneKeyBesideTheEvidence() throws Exception {
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
    assertThat(stage.mailHouse().accounts().count()).isEqualTo(2);
    assertThat(stage.mailHouse().accounts().byName("per.marketti")).isNotNull();
  }

  private void act(String button) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(button).setExact(true))
        .first()
        .click();
    acts++;
  }
}
