package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Who is who and who has the say, decided in the browser beside the evidence. */
public class IdentityInTheConsoleTest {
  private static final String HEADINGS = "No,Family,Given,Kind,Mobile,Job\n";

  private Stage stage;
  private Client client;
  private Chromium chromium;
  private BrowserContext context;
  private Page page;
  private final List<String> said = new ArrayList<>();

  @BeforeClass
  public void start() throws Exception {
    stage = Services.start();
    chromium = new Chromium();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    source("crew", 100);
    source("pay", 50);
    release(
        bring(
            "crew",
            "1,Holm,Ida,employee,+47 555 10001,Mate",
            "2,Tangen,Nora,employee,+47 555 10002,Cook",
            "3,Vik,Per,employee,+47 555 10003,Bosun"));
    var made =
        bring(
            "pay",
            "P1,Holm,Ida,employee,+47 555 10001,Second mate",
            "P2,Tangen,Nora,employee,+47 555 10002,Cook",
            "P3,Vik,Per,employee,+47 555 10003,Bosun");
    client.done("imports", "answer", id(made), "2", "same:" + person("Holm"));
    client.done("imports", "answer", id(made), "3", "same:" + person("Tangen"));
    client.done("imports", "answer", id(made), "4", "new");
    release(made);
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
  public void whomToBelieveIsOneKeyBesideWhatEachSourceSays() {
    page.getByText("Sources do not agree on one value").click();
    assertThat(page.locator(".desk")).containsText("Second mate");
    assertThat(page.locator(".desk")).containsText("holds now");
    isAccessible();
    page.locator(".desk").focus();
    page.keyboard().press("1");

    assertThat(page.getByText("All sources agree, or somebody said whom to believe")).isVisible();
  }

  @Test
  public void twoRecordsAreComparedAndMadeOneWithOneKey() throws Exception {
    page.navigate("/who/duplicates");
    assertThat(page.locator(".desk")).containsText("the same mobile number");
    isAccessible();
    page.locator(".desk").focus();
    page.keyboard().press("1");

    assertThat(page.locator("h1")).containsText("are one: Per Vik");
    press("Release for 2 people");
    client.settle();
    page.navigate("/who/duplicates");
    assertThat(page.getByText("No two records are much alike")).isVisible();
  }

  @Test(dependsOnMethods = "twoRecordsAreComparedAndMadeOneWithOneKey")
  public void aKeyThatIsSomebodyElsesIsPartedFromThePersonsOwnPage() throws Exception {
    page.navigate("/who/" + person("Tangen") + "?tab=who");
    isAccessible();
    press("P2 of pay is somebody else");
    press("Show what parting P2 changes");

    assertThat(page.locator("h1")).containsText("P2 of pay is not Nora Tangen but somebody else");
    press("Release for 2 people");
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

    page.navigate("/who/" + person("Holm"));
    press("Edit");
    page.locator("#e-location").fill("Quay");
    press("Show what it would change");
    assertThat(page.getByText("location is set by hand up to a day only")).isVisible();
    page.getByLabel("Up to and with").fill("2099-12-31");
    press("Show what it would change");
    assertThat(page.locator("h1")).containsText("Edit of Ida Holm");
  }

  private void press(String button) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(button).setExact(true))
        .first()
        .click();
  }

  private void isAccessible() {
    assertThat(new AxeBuilder(page).analyze().getViolations()).extracting("id", "help").isEmpty();
  }

  private void source(String name, int rank) throws IOException {
    client.done(
        "sources",
        "put",
        name,
        file(
            name + ".json",
            """
            {"rank": %d, "key": "No", "columns": {"Family": "name.familyName",
             "Given": "name.givenName", "Kind": "userType", "Mobile": "phoneNumbers.mobile",
             "Job": "title"}}
            """
                .formatted(rank)));
  }

  private JsonNode bring(String source, String... rows) throws IOException {
    return client.json(
        "imports",
        "add",
        file(source + ".csv", HEADINGS + String.join("\n", rows) + "\n"),
        "--source=" + source);
  }

  private void release(JsonNode made) throws Exception {
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
  }

  private String person(String family) {
    return client
        .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
        .at("/items/0/id")
        .asString();
  }

  private static String id(JsonNode made) {
    return made.path("id").asString();
  }

  private String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }
}
