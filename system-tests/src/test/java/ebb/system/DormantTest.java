package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Files;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.node.ObjectNode;

/** Accounts that nobody signs in to any more: found, told from what stays, and switched off. */
public class DormantTest extends InTheBrowser {
  private static final int PEOPLE = 4;

  @BeforeClass(dependsOnMethods = "startService")
  public void bringPeople() throws Exception {
    var file = Newcomers.file(Files.createTempDirectory("ebb-dormant"), 1, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
    signIn(0, 200);
    signIn(1, 100);
    signIn(2, 3);
    client.done("people", "edit", person(1), "userType=technical", "--release");
    client.settle();
  }

  private void signIn(int number, int daysAgo) {
    stage
        .mailHouse()
        .use()
        .signIn(
            stage.mailHouse().accounts().byName(Newcomers.login(1, number)).path("id").asText(),
            Instant.now().minus(daysAgo, ChronoUnit.DAYS));
  }

  private String person(int number) {
    return client
        .json("people", "list", "--filter=userName eq \"%s\"".formatted(Newcomers.login(1, number)))
        .at("/items/0/id")
        .asString();
  }

  @Test
  public void nobodyIsAskedAboutUntilItIsSaidWhatDormantMeans() {
    var unsaid = client.run("applications", "dormant", "directory", "--look");
    assertThat(unsaid.exitCode()).isNotZero();
    assertThat(unsaid.err()).contains("cannot say when an account was last used");
    assertThat(client.done("people", "sign-ins", person(0)))
        .containsPattern("directory .* not known")
        .containsPattern("mail-house .* 20\\d\\d-");
    assertThat(client.done("people", "sign-ins", person(3))).containsPattern("mail-house .* never");
  }

  @Test(dependsOnMethods = "nobodyIsAskedAboutUntilItIsSaidWhatDormantMeans")
  public void theyAreListedWholeAndDatedAndSuspendedThereInTwoActs() throws Exception {
    var rest = new Rest(stage.url(), stage.token());
    var settings = (ObjectNode) rest.get("/api/v1/applications/mail-house").body().path("settings");
    var body = "{\"kind\":\"scim\",\"settings\":%s}".formatted(settings.put("dormantAfter", "90"));
    assertThat(rest.json("PUT", "/api/v1/applications/mail-house", body).status()).isEqualTo(200);
    waitUntil(
        "asked",
        () -> client.done("applications", "dormant", "mail-house").contains(Newcomers.login(1, 0)));

    assertThat(client.done("applications", "dormant", "mail-house"))
        .containsPattern(Newcomers.login(1, 0) + " .* 200\\b")
        .containsPattern(Newcomers.login(1, 1) + " .* 100 .*a technical identity")
        .doesNotContain(Newcomers.login(1, 2))
        .as("never used is dormant once it was seen for as long")
        .doesNotContain(Newcomers.login(1, 3));
    client.done("clock", "--days=91");
    client.settle();
    assertThat(client.done("applications", "dormant", "mail-house"))
        .containsPattern(Newcomers.login(1, 3) + " .* never\\b");

    page.navigate("/where/mail-house/dormant?days=150");
    assertThat(page.locator("tbody")).containsText(Newcomers.login(1, 0), PATIENTLY);
    isAccessible();
    page.locator("tbody input[type=checkbox]").first().check();
    act("Suspend 1 person here …");
    assertThat(page.getByRole(AriaRole.DIALOG)).containsText("1 person is switched off");
    page.getByRole(AriaRole.DIALOG).locator("button[type=submit]").click();
    acts++;
    assertThat(page.locator("main")).containsText("released by", PATIENTLY);
    client.settle();

    assertThat(acts).isEqualTo(2);
    assertThat(
            stage.mailHouse().accounts().byName(Newcomers.login(1, 0)).path("active").asBoolean())
        .isFalse();
    assertThat(client.json("people", "show", person(0)).toString())
        .as("there, and nowhere else")
        .containsPattern("\"application\":\"directory\",\"level\":\"active\"");
    assertThat(client.done("suspensions", "list")).contains("dormant");
  }
}
