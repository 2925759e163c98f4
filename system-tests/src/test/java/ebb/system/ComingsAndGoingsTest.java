package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import ebb.standins.PostBox.Letter;
import java.nio.file.Files;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** People who come for a time, move, and change their names: in the browser, in two acts each. */
public class ComingsAndGoingsTest extends InTheBrowser {
  private static final Pattern LINK = Pattern.compile("(http://\\S+/ask/\\S+)");
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group\n";
  private static final String DECK_RULE =
      """
      {"application": "directory", "condition": "person.department == 'Deck'", "leadDays": 14,
       "groups": ["watch"], "values": {"userName": "login"}}
      """;

  @BeforeClass(dependsOnMethods = "startService")
  public void bringPeople() throws Exception {
    stage.directory().addGroup("watch");
    var file = new StringBuilder(HEADINGS);
    file.append(row(0, "Harbourmaster", "Office", ""));
    for (int i = 1; i < 11; i++) {
      file.append(
          row(
              i,
              "Tern" + i,
              i < 5 ? "Deck" : i < 7 ? "Catering" : i < 10 ? "Summer" : "Office",
              "W0"));
    }
    var path = Files.writeString(stage.home().resolve("files/people.csv"), file);
    var made = client.json("imports", "add", path.toString(), "--source=hr");
    client.done("changes", "release", made.path("changeSet").asString());
    var rule = Files.writeString(stage.home().resolve("files/deck.json"), DECK_RULE);
    client.done("rules", "put", "deck-watch", rule.toString(), "--release");
    client.settle();
  }

  private static String row(int number, String family, String unit, String manager) {
    return "W%d,%s,Ida,Mate,%s,Skerrow,%s,employee,w%d@post.example,,05.01.2026,,M1\n"
        .formatted(number, family, unit, manager, number);
  }

  private String person(String login) {
    return client
        .json("people", "list", "--filter", "userName eq \"%s\"".formatted(login))
        .at("/items/0/id")
        .asString();
  }

  private void fill(String label, String value) {
    page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).fill(value);
  }

  private void choose(String label, String name) {
    page.getByLabel(label).fill(name);
    button(name).first().click();
  }

  @Test
  public void accessOfSomebodyShortLivedOpensAndClosesByItselfAndIsExtendedWithOneAnswer()
      throws Exception {
    var begins = client.today().plusDays(3);
    var ends = begins.plusDays(20);
    page.navigate("/who/new");
    page.getByLabel("Given name").fill("Vigo");
    page.getByLabel("Family name").fill("Shortstay");
    fill("Kind", "contractor");
    fill("Unit", "Dry dock");
    page.getByLabel("First day").fill(begins.toString());
    page.getByLabel("Last day").fill(ends.toString());
    choose("Manager, who also answers for them", "Ida Harbourmaster");
    isAccessible();
    act("Show what they would get");
    assertThat(page.locator("main")).containsText("not usable yet");
    act("Release for 1 person");
    client.settle();
    assertThat(acts).isEqualTo(2);
    assertThat(isOpen("vigo.shortstay")).isFalse();

    assertThat(client.done("forecast", "--days=40"))
        .contains(begins + "     1 people  1 open in directory")
        .contains(ends.plusDays(1) + "     1 people  1 suspend in directory");
    page.navigate("/ahead?day=" + begins);
    assertThat(page.locator("main")).containsText("Vigo Shortstay");
    assertThat(page.locator("main")).containsText("access opens");
    isAccessible();

    client.done("clock", "--days=3");
    client.settle();
    assertThat(isOpen("vigo.shortstay")).isTrue();
    assertThat(warnings()).isEmpty();

    client.done("clock", "--days=8");
    waitUntil("the sponsor is asked", () -> warnings().size() == 1);
    var later = ends.plusDays(30);
    answer(warnings().getFirst(), ends, later);
    client.settle();

    client.done("clock", "--days=13");
    client.settle();
    assertThat(isOpen("vigo.shortstay")).as("extended past the first last day").isTrue();
    client.done("clock", "--days=20");
    waitUntil("the sponsor is asked about the new last day", () -> warnings().size() == 2);
    client.done("clock", "--days=10");
    client.settle();
    assertThat(isOpen("vigo.shortstay")).as("and no longer than that").isFalse();
    assertThat(warnings()).as("asked about each last day once").hasSize(2);
  }

  private boolean isOpen(String login) throws Exception {
    var entry = stage.directory().person(login);
    return entry != null && "TRUE".equals(entry.getAttributeValue("loginAllowed"));
  }

  private List<Letter> warnings() {
    return stage.postBox().letters().stream()
        .filter(letter -> letter.subject().startsWith("Vigo Shortstay ends on"))
        .toList();
  }

  /** By whoever reads the letter, who is no operator. */
  private void answer(Letter letter, LocalDate ends, LocalDate later) {
    assertThat(letter.to()).isEqualTo("ida.harbourmaster@skerrow.example");
    var link = LINK.matcher(letter.text());
    assertThat(link.find()).isTrue();
    page.navigate(link.group(1));
    assertThat(page.locator("main")).containsText("Vigo Shortstay");
    isAccessible();
    page.getByLabel("They go on until").evaluate("one => { one.min = ''; one.max = '' }");
    page.getByLabel("They go on until").fill(ends.toString());
    button("They go on").click();
    assertThat(page.locator("main")).containsText("Choose a day after");
    page.getByLabel("They go on until").fill(later.toString());
    button("They go on").click();
    assertThat(page.locator("main")).containsText("They keep what they have");
    page.navigate(link.group(1));
    assertThat(page.locator("main")).containsText("This link is over");
  }

  @Test
  public void aMoveShowsWhatIsGainedAndLostBeforeItHappens() throws Exception {
    for (var login : List.of("ida.tern1", "ida.tern2")) {
      var account = stage.mailHouse().accounts().byName(login).path("id").asText();
      stage.mailHouse().items().add(account, "files", "note of " + login, "text", true);
    }
    page.navigate("/who?unit=Deck");
    page.getByLabel("Choose Ida Tern1").check();
    page.getByLabel("Choose Ida Tern2").check();
    button("Move 2 people").click();
    fill("To the unit", "Catering");
    isAccessible();
    act("Show what they gain and lose");

    assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Move of 2")))
        .isVisible();
    var lost = page.locator(".effects tr", new Page.LocatorOptions().setHasText("group watch"));
    assertThat(lost).containsText("2");
    assertThat(stage.directory().members("watch"))
        .as("nothing is written yet")
        .anyMatch(one -> one.contains("tern1"));
    isAccessible();
    act("Release for 2 people");
    client.settle();
    assertThat(acts).isEqualTo(2);
    assertThat(stage.directory().members("watch")).noneMatch(one -> one.contains("tern1"));
    assertThat(stage.directory().members("watch")).anyMatch(one -> one.contains("tern3"));
  }

  @Test
  public void whatALostAccountOwnsIsSaidBeforeItIsLost() throws Exception {
    var account = stage.mailHouse().accounts().byName("ida.tern5").path("id").asText();
    stage.mailHouse().items().add(account, "files", "recipe", "text", true);
    var set = client.json("people", "edit", person("ida.tern5"), "userType=contractor");

    assertThat(client.done("changes", "effects", set.path("id").asString()))
        .contains("mail-house       account")
        .contains("Ida Tern5 in mail-house owns 1 files");
    page.navigate("/now/change-sets/" + set.path("id").asString());
    assertThat(page.locator("main")).containsText("What the accounts own that are lost");
    assertThat(page.locator("main")).containsText("1 files");
    client.done("changes", "discard", set.path("id").asString());
  }

  @Test
  public void aRenameIsOneEventOfWhichEachPartMayBeKept() throws Exception {
    page.navigate("/who/" + person("ida.tern4"));
    button("Rename …").click();
    fill("Family name", "Gull");
    var rows = page.locator("[role=dialog] tbody tr");
    assertThat(rows.nth(0)).containsText("Ida Gull");
    assertThat(rows.nth(1)).containsText("ida.gull");
    assertThat(page.locator("[role=dialog]")).containsText("ida.gull@skerrow.example");
    assertThat(page.locator("[role=dialog]")).containsText("W4");
    isAccessible();
    act("Show what it would change");
    act("Release for 1 person");
    client.settle();
    assertThat(acts).isEqualTo(2);

    var entry = stage.mailHouse().accounts().byName("ida.gull");
    assertThat(entry.path("displayName").asText()).isEqualTo("Ida Gull");
    assertThat(entry.path("emails").toString())
        .contains("ida.gull@skerrow.example")
        .contains("ida.tern4@skerrow.example");
    assertThat(stage.directory().person("ida.gull")).isNotNull();
    assertThat(stage.directory().person("ida.tern4")).isNull();

    // HR goes on to call her what it did, and finds her by her key.
    var path =
        Files.writeString(
            stage.home().resolve("files/again.csv"), HEADINGS + row(4, "Tern4", "Deck", "W0"));
    var again = client.json("imports", "add", path.toString(), "--source=hr");
    assertThat(again.at("/counts/new").asInt()).isZero();
    assertThat(client.json("people", "show", person("ida.gull")).path("displayName").asString())
        .isEqualTo("Ida Gull");
  }

  @Test
  public void manyAreSuspendedInTwoActsAndBroughtBackInOne() throws Exception {
    var house = stage.mailHouse();
    house
        .use()
        .openWay(
            house.accounts().byName("ida.tern7").path("id").asText(),
            "token",
            "calendar on a phone");
    page.navigate("/who?unit=Summer");
    page.getByLabel("Choose all that are listed").check();
    act("Suspend 3 people …");
    assertThat(page.getByRole(AriaRole.DIALOG)).containsText("3 people are switched off");
    isAccessible();
    page.getByRole(AriaRole.DIALOG).getByText("Suspend 3 people").click();
    acts++;
    assertThat(page.locator("main")).containsText("released by", PATIENTLY);
    assertThat(acts).isEqualTo(2);
    client.settle();
    for (var name : List.of("ida.tern7", "ida.tern8", "ida.tern9")) {
      assertThat(house.accounts().byName(name).path("active").asBoolean()).as(name).isFalse();
    }

    page.navigate("/who/" + person("ida.tern7"));
    var open = page.getByLabel("What is still open");
    assertThat(open).containsText("calendar on a phone", PATIENTLY);
    isAccessible();
    open.getByText("Shut it").click();
    assertThat(open).containsText("nothing is open", PATIENTLY);

    acts = 0;
    page.navigate("/ahead/suspended");
    assertThat(page.locator("tbody tr")).hasCount(3);
    page.getByLabel("Choose all shown").check();
    isAccessible();
    button("Bring back 3 people …").click();
    assertThat(page.getByRole(AriaRole.DIALOG)).containsText("all of it fits still");
    act("Bring 3 people back");
    assertThat(page.locator("main")).containsText("released by", PATIENTLY);
    client.settle();
    assertThat(acts).isEqualTo(1);
    for (var name : List.of("ida.tern7", "ida.tern8", "ida.tern9")) {
      assertThat(house.accounts().byName(name).path("active").asBoolean()).as(name).isTrue();
    }
  }

  @Test
  public void aLeaverWithDataTakesOneConfirmationAndThenOnlyWhatAGateAsks() throws Exception {
    var house = stage.mailHouse();
    var account = house.accounts().byName("ida.tern10").path("id").asText();
    for (int i = 0; i < 5; i++) {
      house.items().add(account, "files", "rota " + i, "text " + i, true);
    }
    page.navigate("/who/" + person("ida.tern10"));
    button("Leaves …").click();
    page.getByLabel("Last day").fill(client.today().minusDays(1).toString());
    choose("Who gets what they leave behind", "Ida Tern6");
    isAccessible();
    act("Let Ida Tern10 leave after");
    assertThat(page.locator("main")).containsText("released by", PATIENTLY);
    assertThat(acts).isEqualTo(1);
    client.settle();
    assertThat(house.accounts().byName("ida.tern10").path("active").asBoolean()).isFalse();

    client.done("clock", "--days=3");
    client.settle();
    page.navigate("/ahead/departures");
    page.getByText("Ida Tern10").click();
    assertThat(page.locator("main")).containsText("and that is proven", PATIENTLY);
    isAccessible();
    var heir = house.accounts().byName("ida.tern6").path("id").asText();
    assertThat(house.items().names(heir)).contains("rota 0", "rota 4");
    client.done("clock", "--days=30");
    client.settle();
    assertThat(house.accounts().byName("ida.tern10")).isNull();
    assertThat(stage.directory().person("ida.tern10")).isNull();
    assertThat(acts).as("no gate asked for anything").isEqualTo(1);
  }

  @Test
  public void aLoginMayBeKeptAndOneOfSomebodyElseIsNotTaken() throws Exception {
    var id = person("ida.tern6");
    assertThat(client.run("people", "rename", id, "--family=Plover", "--login=ida.tern3").err())
        .contains("is, or was, the login of Ida Tern3");

    var renamed = client.done("people", "rename", id, "--family=Plover", "--login=ida.tern6");
    assertThat(renamed)
        .contains("Ida Tern6 -> Ida Plover")
        .contains("login                        ida.tern6, as before")
        .contains("known to hr by W6, as before");
    var set = client.json("changes", "list", "--state=shown").at("/items/0/id").asString();
    client.done("changes", "release", set);
    client.settle();
    assertThat(stage.directory().person("ida.tern6").getAttributeValue("sn")).isEqualTo("Plover");
    client.done("people", "edit", id, "title=Cook", "--release");
    client.settle();
    assertThat(person("ida.tern6")).as("kept for good").isEqualTo(id);

    var back = client.json("changes", "take-back", set);
    client.done("changes", "release", back.path("id").asString());
    client.settle();
    assertThat(stage.directory().person("ida.tern6").getAttributeValue("sn")).isEqualTo("Tern6");
    client.done("people", "edit", person("ida.tern3"), "manager=" + id, "--release");
    client.settle();
    assertThat(client.done("people", "references", id))
        .containsPattern("directory +references that follow a new name: 1 .manager of Ida Tern3")
        .containsPattern("mail-house +references that stay right whatever the name: 1 ");
    client.done("people", "rename", id, "--family=Dotterel", "--release");
    client.settle();
    assertThat(stage.directory().person("ida.tern3").getAttributeValue("manager"))
        .startsWith("uid=ida.dotterel,");
    assertThat(stage.directory().person("ida.dotterel"))
        .as("with the choice taken back, the login follows the name again")
        .isNotNull();
  }
}
