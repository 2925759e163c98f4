package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.Test;

/** A run of which too much is refused stops itself, is understood in the console, and resumed. */
public class HaltedSetTest extends InTheBrowser {
  private static final int PEOPLE = 120;
  private static final int REFUSED = 60;

  @Test
  public void aSetStopsItselfWhenTooMuchIsRefusedAndIsResumedOnceTheCauseIsGone() throws Exception {
    var house = stage.mailHouse();
    client.done(
        "applications",
        "connect",
        "mail-house",
        "--kind=scim",
        "--set=address=" + house.scim(),
        "--set=companion=" + house.companion(),
        "--set=network=internal",
        "--set=callsAtOnce=1",
        "--secret-file=" + secret());
    house.manners().delay(Duration.ofMillis(40));
    var strangers = new ArrayList<String>();
    for (int i = 0; i < REFUSED; i++) {
      strangers.add(house.accounts().add(Newcomers.login(1, i)));
    }
    var file = Newcomers.file(stage.home(), 1, PEOPLE);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    var set = made.path("changeSet").asString();
    client.done("changes", "release", set, "--no-wait", "--reason=a trial");

    waitUntil("it stops itself", () -> inHouse(set).containsKey("halted"));
    waitUntil("what was sent is recorded", () -> !inHouse(set).containsKey("claimed"));
    var stopped = inHouse(set);
    assertThat(stopped.get("refused")).as("%s", stopped).isBetween(10, REFUSED);
    assertThat(stopped).as("nothing waits to be sent").doesNotContainKeys("queued", "unsure");
    var accounts = house.accounts().count();
    assertThat(accounts)
        .as("%s, beside the strangers", stopped)
        .isEqualTo(REFUSED + stopped.getOrDefault("seen", 0));
    assertThat(stopped.get("halted")).isGreaterThan(PEOPLE / 4);

    assertThat(client.done("changes", "show", set))
        .contains("It stopped by itself: too much of it was refused")
        .contains("ebb changes go-on " + set);
    assertThat(client.done("now")).contains("changes failed or were stopped");
    assertThat(client.done("journal", "list")).contains("stopped change set " + set);

    page.navigate("/now");
    page.locator("a[href='/now/change-sets/" + set + "']").first().click();
    assertThat(page.locator("main")).containsText("It stopped by itself", PATIENTLY);
    isAccessible();
    strangers.forEach(house.accounts()::remove);
    house.manners().delay(Duration.ZERO);
    assertThat(house.accounts().count())
        .as("it stands still until somebody acts")
        .isEqualTo(accounts - REFUSED);
    act("Let the rest go on");
    waitUntil("the rest is carried out", () -> !inHouse(set).containsKey("halted"));
    client.settle();
    assertThat(inHouse(set).get("refused"))
        .as("they are not sent again")
        .isEqualTo(stopped.get("refused"));
    assertThat(page.getByText("It stopped by itself")).not().isVisible();

    client.done("changes", "retry", set);
    client.settle();
    assertThat(inHouse(set)).isEqualTo(Map.of("seen", PEOPLE));
    assertThat(house.accounts().count()).isEqualTo(PEOPLE);
    page.navigate("/now/change-sets/" + set);
    page.getByText("released by", new Page.GetByTextOptions()).first().waitFor();
    assertThat(button("Let the rest go on")).not().isVisible();
  }

  private String secret() throws Exception {
    return java.nio.file.Files.writeString(stage.home().resolve("token"), ebb.demo.Stage.MAIL_TOKEN)
        .toString();
  }

  /** How many creations of the mail house are in each state. */
  private Map<String, Integer> inHouse(String set) {
    var states = new TreeMap<String, Integer>();
    for (var count : client.json("changes", "show", set).path("counts")) {
      if (count.path("application").asString().equals("mail-house")
          && count.path("kind").asString().equals("create")) {
        states.merge(count.path("state").asString(), count.path("count").asInt(), Integer::sum);
      }
    }
    return states;
  }
}
