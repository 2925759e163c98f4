package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.regex.Pattern;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.node.ObjectNode;

/** Accounts that nobody signs in to any more: found, told from what stays, and switched off. */
public class DormantTest extends InTheBrowser {
  private static final int PEOPLE = 7;
  private static final Pattern LINK = Pattern.compile("(http://\\S+/ask/\\S+)");

  @BeforeClass(dependsOnMethods = "startService")
  public void bringPeople() throws Exception {
    var file = Newcomers.file(Files.createTempDirectory("ebb-dormant"), 1, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString());
    client.settle();
    signIn(0, 200);
    signIn(1, 100);
    signIn(2, 3);
    signIn(4, 190);
    signIn(5, 190);
    signIn(6, 190);
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

  /** Each step goes on from where the one before left off. */
  @Test
  public void dormantAccountsAreFoundAskedAboutAndSwitchedOff() throws Exception {
    nobodyIsAskedAboutUntilItIsSaidWhatDormantMeans();
    theyAreListedWholeAndDatedAndSuspendedThereInTwoActs();
    theirOwnersAreAskedOnceSilenceSwitchesOffAndWhatIsOffIsRemovedAfterATest();
  }

  private void nobodyIsAskedAboutUntilItIsSaidWhatDormantMeans() {
    var unsaid = client.run("dormant", "list", "directory", "--look");
    assertThat(unsaid.exitCode()).isNotZero();
    assertThat(unsaid.err()).contains("cannot say when an account was last used");
    assertThat(client.done("people", "sign-ins", person(0)))
        .containsPattern("directory .* not known")
        .containsPattern("mail-house .* 20\\d\\d-");
    assertThat(client.done("now"))
        .as("alike ones are one errand")
        .containsOnlyOnce("Not delivered: Your accounts are ready")
        .contains("and 4 more.");
    assertThat(client.done("people", "sign-ins", person(3))).containsPattern("mail-house .* never");
  }

  private void theyAreListedWholeAndDatedAndSuspendedThereInTwoActs() throws Exception {
    acts = 0;
    var rest = new Rest(stage.url(), stage.token());
    var settings = (ObjectNode) rest.get("/api/v1/applications/mail-house").body().path("settings");
    var body =
        "{\"kind\":\"scim\",\"settings\":%s}"
            .formatted(settings.put("dormantAfter", "90").put("restoreDays", "5"));
    assertThat(rest.json("PUT", "/api/v1/applications/mail-house", body).status()).isEqualTo(200);
    waitUntil(
        "asked",
        () -> client.done("dormant", "list", "mail-house").contains(Newcomers.login(1, 0)));

    assertThat(client.done("dormant", "list", "mail-house"))
        .containsPattern(Newcomers.login(1, 0) + " .* 200\\b")
        .containsPattern(Newcomers.login(1, 1) + " .* 100 .*a technical identity")
        .doesNotContain(Newcomers.login(1, 2))
        .as("never used is dormant once it was seen for as long")
        .doesNotContain(Newcomers.login(1, 3));
    client.done("clock", "--days=91");
    client.settle();
    assertThat(client.done("dormant", "list", "mail-house"))
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

  private void theirOwnersAreAskedOnceSilenceSwitchesOffAndWhatIsOffIsRemovedAfterATest()
      throws Exception {
    acts = 0;
    page.navigate("/where/mail-house/dormant?days=250");
    assertThat(page.locator("tbody tr")).hasCount(3);
    page.getByLabel("Choose all that may be").check();
    page.getByText("Ask whether they are still needed …").click();
    isAccessible();
    submit();
    assertThat(page.locator("main")).containsText("3 letters go out.", PATIENTLY);
    assertThat(page.locator("tbody")).containsText("an answer is due by", PATIENTLY);

    assertThat(answer(4, "yes")).isEqualTo(200);
    assertThat(answer(5, "no")).isEqualTo(200);
    assertThat(answer(5, "yes")).as("one answer is enough").isEqualTo(410);
    waitUntil("switched off, as its owner said", () -> !isUsable(5));
    client.done("clock", "--days=15");
    client.settle();
    assertThat(isUsable(6)).as("nobody answered").isFalse();
    assertThat(isUsable(4)).isTrue();
    assertThat(client.done("dormant", "list", "mail-house", "--days=250"))
        .containsPattern(Newcomers.login(1, 4) + ".*still needed, said ")
        .doesNotContain(Newcomers.login(1, 6));

    assertThat(client.done("dormant", "off", "mail-house"))
        .containsPattern(Newcomers.login(1, 6) + ".*and may go from ");
    client.done("clock", "--days=31");
    client.done("people", "hold", person(5), "--reason=audit");
    client.settle();
    page.navigate("/where/mail-house/off");
    assertThat(page.locator("tbody")).containsText("A hold set by");
    isAccessible();
    page.getByLabel("Choose all that may be removed").check();
    page.getByText("Remove 2 accounts …").click();
    page.getByLabel("Why").fill("Nobody needs them");
    submit();
    assertThat(page.locator("main"))
        .containsText("The removal of 2 accounts has begun.", PATIENTLY);

    waitUntil("restorable", () -> running().contains("It can be restored until"));
    client.done("clock", "--days=2");
    page.navigate("/now");
    assertThat(page.locator("main"))
        .containsText("can be restored; after that it is deleted for good", PATIENTLY);
    client.done("suspensions", "end", person(0), "--release");
    waitUntil("restored, with all it had", () -> isUsable(0));
    client.done("clock", "--days=3");
    client.settle();
    assertThat(isGone(6)).as("its last day").isFalse();
    client.done("clock", "--days=1");
    waitUntil("gone", () -> isGone(6));
    client.done("clock", "--days=1");
    client.done("applications", "sync", "mail-house");
    client.settle();
    assertThat(isUsable(0)).isTrue();
    assertThat(isGone(6)).as("what was removed is not made again").isTrue();
    assertThat(isGone(5)).as("a hold is in force").isFalse();
    assertThat(client.json("people", "show", person(6)).toString())
        .as("there, and nowhere else")
        .containsPattern("\"application\":\"directory\",\"level\":\"active\"");
    assertThat(acts).as("asked, and removed").isEqualTo(2);
  }

  private String running() {
    return client.done("departures", "list", "--state=running", "-o", "json");
  }

  private void submit() {
    page.getByRole(AriaRole.DIALOG).locator("button[type=submit]").click();
    acts++;
  }

  private boolean isUsable(int number) {
    return stage
        .mailHouse()
        .accounts()
        .byName(Newcomers.login(1, number))
        .path("active")
        .asBoolean();
  }

  private boolean isGone(int number) {
    return stage.mailHouse().accounts().byName(Newcomers.login(1, number)) == null;
  }

  private int answer(int number, String word) throws Exception {
    var link = LINK.matcher("");
    waitUntil(
        "a letter",
        () ->
            stage.postBox().lettersTo(Newcomers.login(1, number) + "@skerrow.example").stream()
                .filter(letter -> letter.subject().contains("still needed"))
                .anyMatch(letter -> link.reset(letter.text()).find()));
    try (var http = HttpClient.newHttpClient()) {
      var address = URI.create(link.group(1));
      var shown =
          http.send(HttpRequest.newBuilder(address).build(), BodyHandlers.ofString()).body();
      var field = Pattern.compile("name=\"(account-\\d+)\"").matcher(shown);
      var body = field.find() ? field.group(1) + "=" + word : "";
      return http.send(
              HttpRequest.newBuilder(address)
                  .header("Content-Type", "application/x-www-form-urlencoded")
                  .POST(BodyPublishers.ofString(body))
                  .build(),
              BodyHandlers.ofString())
          .statusCode();
    }
  }
}
