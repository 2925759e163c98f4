package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import ebb.standins.StaffDirectory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * A real directory with thousands of entries Ebb did not make, edited behind its back, is brought
 * to agree with it: each kind of finding in three acts at most.
 */
public class ReconcileInTheConsoleTest extends InTheBrowser {
  private static final int PEOPLE = 30;
  private static final int FOUND = 600;

  /** Names of which every one needs care in a DN, a filter, a list or a table. */
  private static final List<String> AWKWARD =
      List.of(
          "#first",
          "trailing ",
          " leading",
          "com,ma",
          "quo\"te",
          "plus+equals=",
          "semi;colon",
          "back\\slash",
          "star*(paren)",
          "a\u0308rger",
          "\u05d0\u05d1\u05d2\u05d3",
          "\u0645\u0631\u062d\u0628\u0627",
          "\u6d77\u6e2f",
          "<b>bold</b>",
          "o'brine",
          "long-" + "x".repeat(180));

  private Harbour harbour;

  @BeforeClass(dependsOnMethods = "startService")
  public void editBehindItsBack() throws Exception {
    harbour = new Harbour(client);
    harbour.bring(1, PEOPLE);
    var entries = new StringBuilder();
    for (int i = 0; i < FOUND; i++) {
      entries.append(entry("%s %d".formatted(AWKWARD.get(i % AWKWARD.size()), i), "Found", i));
    }
    // As one who has an account, and as one who has none.
    entries.append(entry("twin", "Twin", 0, Newcomers.login(1, 9)));
    harbour.slapd().load(Files.writeString(harbour.folder().resolve("found.ldif"), entries));
    for (int i = 0; i < 3; i++) {
      client.done("people", "edit", person(i), "awayFrom=2026-01-01", "--release");
    }
    client.settle();
    for (int i = 0; i < 3; i++) {
      harbour.edit(i, "loginAllowed", "TRUE");
      harbour.edit(3 + i, "loginAllowed", "FALSE");
      harbour.delete(6 + i);
      harbour.edit(10 + i, "title", "Bosun");
      harbour.edit(13 + i, "sn", "Otherwise");
    }
  }

  @AfterClass(alwaysRun = true)
  public void stopHarbour() throws Exception {
    harbour.close();
  }

  private static String entry(String uid, String surname, int number, String... login) {
    var given = login.length == 0 ? "Given" + number : login[0].replaceFirst("\\..*", "");
    var family = login.length == 0 ? surname + "er" + number : login[0].replaceFirst(".*\\.", "");
    return """
        dn: employeeNumber=%d-%s,%s
        objectClass: inetOrgPerson
        employeeNumber: %d-%s
        uid:: %s
        givenName: %s
        sn: %s
        cn:: %s

        """
        .formatted(
            number,
            surname,
            StaffDirectory.PEOPLE,
            number,
            surname,
            base64(uid),
            given,
            family,
            base64(uid));
  }

  private static String base64(String text) {
    return Base64.getEncoder().encodeToString(text.getBytes(StandardCharsets.UTF_8));
  }

  private String person(int i) {
    return client
        .json("people", "list", "--filter=userName eq \"%s\"".formatted(Newcomers.login(1, i)))
        .path("items")
        .path(0)
        .path("id")
        .asString();
  }

  private Map<String, Integer> found() {
    var found = new TreeMap<String, Integer>();
    client
        .json("findings", "list", Harbour.NAME)
        .path("kinds")
        .forEach(one -> found.put(one.path("kind").asString(), one.path("count").asInt()));
    return found;
  }

  @Test
  public void eachKindIsSettledInThreeActsAndTheDirectoryAgrees() throws Exception {
    page.navigate("/where/harbour");
    act("Sync: read and compare");
    assertThat(page.getByText("of nobody known"))
        .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(60_000));
    waitUntil(
        "all is looked at", () -> found().getOrDefault("unlooked", 0) == 0 && !found().isEmpty());
    assertThat(found())
        .containsEntry("on-there", 3)
        .containsEntry("off-there", 3)
        .containsEntry("missing", 3)
        .containsEntry("drifted", 6)
        .containsEntry("duplicate", 1)
        .containsEntry("unmatched", FOUND);
    var untouched = harbour.csn(20);
    isAccessible();

    settle("Off here, and on there", "Switch off 3 accounts there", "Release for 3 people");
    settle("On here, and off there", "Switch on 3 accounts there", "Release for 3 people");
    settle("Should be there, and are not", "Create 3 accounts there", "Release for 3 people");
    settle("Differ from what they should be", "Put right 6 accounts there", "Release for 6 people");
    isAccessible();

    open("Of nobody, like somebody who has one there already");
    page.getByLabel("They are nobody’s and meant to be there, because").fill("a second login");
    act("Leave 1 account alone");
    assertThat(page.getByText("1 settled")).isVisible();
    assertThat(acts).isLessThanOrEqualTo(3);

    open("Of nobody who is known");
    isAccessible();
    page.getByLabel("Of which kind they are").fill("visitor");
    act("Adopt 600 accounts as people");
    act("Release for 600 people");
    assertThat(acts).isLessThanOrEqualTo(3);
    waitUntil("all are people", () -> !found().containsKey("unmatched"));
    client.settle();

    agree(untouched);
  }

  private void open(String kind) {
    page.navigate("/where/harbour");
    acts = 1;
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(Pattern.compile("^" + kind)))
        .first()
        .click();
  }

  private void settle(String kind, String act, String release) throws Exception {
    open(kind);
    act(act);
    act(release);
    assertThat(acts).isLessThanOrEqualTo(3);
    client.settle();
  }

  /** Two whole readings find nothing, and write nothing. */
  private void agree(String untouched) throws Exception {
    for (int i = 0; i < 2; i++) {
      var read = client.json("applications", "sync", Harbour.NAME, "--everything");
      assertThat(read.path("drifted").asInt()).isZero();
      assertThat(read.path("unmatched").asInt()).isZero();
      assertThat(read.path("changeSet").isNull()).isTrue();
    }
    waitUntil("nothing but what is left alone", () -> found().equals(Map.of("left-alone", 1)));
    assertThat(harbour.csn(20)).isEqualTo(untouched);
    assertThat(harbour.people()).isEqualTo(PEOPLE + FOUND + 1);
    page.navigate("/where/harbour");
    assertThat(page.getByText("All agrees")).isVisible();
  }
}
