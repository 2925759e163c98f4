package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Files;
import java.util.regex.Pattern;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** What a reading found, decided in the browser, one act for each account. */
public class SyncInTheConsoleTest extends InTheBrowser {
  @BeforeClass(dependsOnMethods = "startService")
  public void bringIn() throws Exception {
    var folder = Files.createTempDirectory("ebb-sync");
    var file = Newcomers.file(folder, 1, 3);
    var made = client.json("imports", "add", file.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");
    client.settle();
  }

  @Test
  public void aStrangerIsLeftAloneWithAReasonAndDriftIsPutRight() throws Exception {
    stage.directory().add("harbour-camera", "Harbour", "Camera");
    stage.directory().edit(Newcomers.login(1, 1), "title", "Bosun");
    page.navigate("/where/directory");
    act("Sync: read and compare");
    assertThat(page.getByText("1 drifted")).isVisible();
    open("Of nobody who is known");
    act("harbour-camera");
    assertThat(page.getByText("It is like nobody who is known")).isVisible();
    isAccessible();
    page.getByLabel("It is nobody’s, and meant to be there, because").fill("watches the quay");
    act("Leave it as it is");

    assertThat(page.getByText("Nothing of this kind is found")).isVisible();
    page.navigate("/where/directory");
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("look and put it right"))
        .click();
    act("Release for 1 person");
    client.settle();
    page.navigate("/where/directory");
    act("Read it all");
    assertThat(page.getByText("0 drifted")).isVisible();
  }

  @Test
  public void anAccountIsTakenFromSomebodyAndGivenBack() {
    var login = Newcomers.login(1, 0);
    page.navigate("/where/directory");
    act(login);
    act("It is not this person's");
    assertThat(page.getByText("That is kept.")).isVisible();
    open("Of nobody who is known");
    act(login);
    assertThat(page.getByText("It is like nobody who is known")).isVisible();
    isAccessible();

    act("Somebody else's");
    page.getByLabel("Whose it is").fill(login.replaceFirst(".*\\.", ""));
    page.locator(".pick button").first().click();

    assertThat(page.getByText("Nothing of this kind is found")).isVisible();
  }

  @Test
  public void aSourceAndAnApplicationAreComparedSideBySide() throws Exception {
    stage.directory().edit(Newcomers.login(1, 2), "title", "Stoker");
    client.json("applications", "sync", "directory");
    page.navigate("/where");
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Compare two side by side"))
        .click();
    page.getByLabel("Compare").selectOption("hr");
    page.getByLabel("with", new Page.GetByLabelOptions().setExact(true)).selectOption("directory");

    assertThat(page.getByText("Stoker")).isVisible();
    assertThat(page.locator("figcaption")).containsText("3 in both");
    isAccessible();
    act("In directory alone");
    assertThat(page.getByText("Nobody.")).isVisible();

    stage.directory().edit(Newcomers.login(1, 2), "title", "Mate");
    client.json("applications", "sync", "directory");
  }

  private void open(String kind) {
    var named = Pattern.compile("^" + kind);
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(named)).first().click();
    // The page before lists the same accounts.
    assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(named)))
        .isVisible();
  }
}
