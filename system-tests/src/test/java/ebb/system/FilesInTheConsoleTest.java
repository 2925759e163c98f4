package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Many joiners, and a take-over: in the browser, from the file to accounts that were seen. */
public class FilesInTheConsoleTest extends InTheBrowser {
  private static final String KNOWN =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";

  @BeforeMethod(dependsOnMethods = "open")
  public void bringIn() {
    page.navigate("/now/imports/new");
  }

  @Test
  public void manyJoinersFromAFileThatIsKnownTakeFourActs() {
    var file = new StringBuilder(KNOWN);
    for (int i = 1; i <= 8; i++) {
      file.append(
          "J%d,Joiner%d,Ida,Mate,Deck,Skerrow,,employee,%s,,05.01.2026,,M1\n"
              .formatted(i, i, i == 3 ? "none" : "joiner%d@post.example".formatted(i)));
    }
    bring("joiners.csv", file.toString(), StandardCharsets.UTF_8);
    act(() -> page.getByLabel("Private mail in line 4").fill("joiner3@post.example"), "Mend");
    assertThat(page.getByText("Refused 0")).isVisible();
    act("Release 2 people first");
    assertThat(page.getByText("released in part")).isVisible();
    act("Release the other 6 people");

    seen();
    assertThat(acts).as("acts from the file to the accounts").isLessThanOrEqualTo(4);
    assertThat(accounts("joiner")).isEqualTo(8);
  }

  @Test
  public void aTakeOverWithColumnsNobodyKnowsTakesFiveActs() {
    var file =
        new StringBuilder("Personal-Nr;Nachname;Vorname;Abteilung;Eintritt;E-Mail privat\r\n");
    for (int i = 1; i <= 6; i++) {
      file.append(
          "T%d;Überfahrt%d;Jörg;Deck;%d.1.2026;takeover%d@post.example\r\n"
              .formatted(i, i, i + 12, i));
    }
    bring("übernahme.csv", file.toString(), Charset.forName("windows-1252"));
    assertThat(page.getByText("It is not known yet what the columns")).isVisible();
    assertThat(page.locator("main")).containsText("windows-1252");
    act(() -> page.getByLabel("Where it comes from").fill("takeover"), "Read it so");
    act("Release 2 people first");
    assertThat(page.getByText("released in part")).isVisible();
    act("Release the other 4 people");

    seen();
    assertThat(acts).as("acts from the file to the accounts").isLessThanOrEqualTo(5);
    assertThat(accounts("uberfahrt")).isEqualTo(6);
  }

  @Test
  public void whatIsBeingMappedIsThereAgainAfterTheBrowserWasClosed() {
    bring("later.csv", "Nr;Nachname;Vorname\r\nL1;Später;Ida\r\n", StandardCharsets.UTF_8);
    page.getByText("It is not known yet what the columns").waitFor();
    openAnother(ColorScheme.DARK);

    assertThat(page.getByText("Say how later.csv is read")).isVisible();
  }

  @Test
  public void onlyChosenPeopleOfASetAreReleased() {
    var file = new StringBuilder(KNOWN);
    for (int i = 1; i <= 4; i++) {
      file.append(
          "C%d,Chosen%d,Per,Mate,Deck,Skerrow,,employee,chosen%d@post.example,,05.01.2026,,M1\n"
              .formatted(i, i, i));
    }
    bring("chosen.csv", file.toString(), StandardCharsets.UTF_8);
    page.getByText("Person by person").first().click();
    page.getByLabel("Choose Per Chosen2").check();
    page.getByLabel("Choose Per Chosen4").check();
    act("Release the 2 people chosen");

    assertThat(button("Release the other 2 people")).isVisible();
    assertThat(accountsOnceSeen("chosen", 2)).isEqualTo(2);
  }

  private void bring(String name, String content, Charset charset) {
    page.getByLabel("The file, as it is")
        .setInputFiles(new FilePayload(name, "text/csv", content.getBytes(charset)));
    act("Read it and show what it would do");
    page.waitForURL(Pattern.compile(".*/now/imports/\\d+.*"));
  }

  private void act(Runnable before, String button) {
    before.run();
    act(button);
  }

  private void seen() {
    assertThat(page.locator("[aria-current='step']")).containsText("Seen", PATIENTLY);
  }

  private long accounts(String login) {
    long count = 0;
    for (var account :
        client.json("applications", "accounts", "directory", "--limit=500").path("items")) {
      count += account.toString().contains(login) ? 1 : 0;
    }
    return count;
  }

  private long accountsOnceSeen(String login, long expected) {
    for (int i = 0; i < 100 && accounts(login) < expected; i++) {
      page.waitForTimeout(200);
    }
    return accounts(login);
  }
}
