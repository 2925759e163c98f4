package ebb.system;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.ScreenshotOptions;
import com.microsoft.playwright.options.ColorScheme;
import ebb.demo.Client;
import ebb.demo.Scenario;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;

/** Takes every picture of the console in docs/screenshots again, from the demo's data. */
final class Screenshots {
  private final Path folder;
  private final Client client;
  private final Stage stage;

  private Screenshots(Path folder, Stage stage) {
    this.folder = folder;
    this.client = new Client(stage.url(), stage.token());
    this.stage = stage;
  }

  /**
   * @param arguments folder; then light or dark, width and height where they differ from 1280x800
   */
  public static void main(String[] arguments) throws Exception {
    var folder = Files.createDirectories(Path.of(arguments[0]));
    var scheme =
        arguments.length > 1
            ? ColorScheme.valueOf(arguments[1].toUpperCase(Locale.ROOT))
            : ColorScheme.LIGHT;
    var width = arguments.length > 2 ? Integer.parseInt(arguments[2]) : 1280;
    var height = arguments.length > 3 ? Integer.parseInt(arguments[3]) : 800;
    try (var first = Services.start();
        var second = Services.start();
        var chromium = new Chromium()) {
      Scenario.showDayOne(first, quiet());
      var page = chromium.fresh(first.url(), scheme, width, height).newPage();
      new Screenshots(folder, first).dayOne(page);
      Scenario.tellToTheSecondWeek(second, quiet());
      page = chromium.fresh(second.url(), scheme, width, height).newPage();
      new Screenshots(folder, second).secondWeek(page);
    }
  }

  private void dayOne(Page page) {
    Chromium.signIn(page);
    page.navigate("/now/imports/1");
    page.getByText("Private mail is no mail address").first().waitFor();
    take(page, "file-brought-in");
    page.navigate("/now/change-sets/" + SetUp.FIRST_SET);
    page.getByText("create account marit.solvik").first().click();
    take(page, "change-set");
  }

  private void secondWeek(Page page) throws Exception {
    Chromium.signIn(page);
    page.getByText("Look and release").first().waitFor();
    take(page, "now");
    page.navigate("/ahead");
    page.locator(".tide svg .day").last().click();
    page.locator("tbody tr").first().waitFor();
    take(page, "ahead");
    page.navigate("/who?unit=Deck");
    page.locator("tbody tr").first().waitFor();
    take(page, "people");
    var departure = client.json("departures", "list").path("items").get(0);
    page.navigate("/who/" + number("stage eq \"leaving\" and userType eq \"employee\""));
    page.getByText("each with its ground").first().click();
    page.locator(".tide svg .span").first().waitFor();
    take(page, "person");
    page.navigate("/ahead/departures/" + departure.path("id").asString());
    page.locator(".tide svg .span").first().waitFor();
    page.getByText("Balance sheet").first().waitFor();
    take(page, "departure");
    departures(page);
    editUnseen();
    page.navigate("/where/directory");
    page.locator("tbody tr").first().waitFor();
    take(page, "application");
    page.navigate("/where/directory/drifted");
    page.locator("tbody tr").first().waitFor();
    take(page, "findings");
    page.navigate("/where/compare?left=directory&right=mail-house&part=left-only");
    page.locator("figcaption").waitFor();
    take(page, "side-by-side");
    page.navigate("/where/mail-house");
    page.getByText("Look at it anew").click();
    page.getByText("What it cannot do").waitFor();
    take(page, "inspection");
    page.navigate("/where/feeds/hr");
    page.locator("tbody tr").first().waitFor();
    take(page, "feed");
    page.navigate("/now/imports/2?verdict=set%20aside");
    page.getByText("likeness").first().waitFor();
    take(page, "doubtful");
    page.navigate("/why/limits");
    page.locator("tbody tr").first().waitFor();
    take(page, "limits");
    page.navigate("/why/rules/mail-for-employees");
    page.getByText("people today").waitFor();
    take(page, "rule");
    var stopped = number("department eq \"Engine\" and userType eq \"employee\"");
    client.done("emergency", "stop", stopped, "--reason=laptop stolen, signed in");
    page.navigate("/who/" + stopped);
    page.getByText("not known here").waitFor();
    page.locator(".tide svg .span").first().waitFor();
    take(page, "emergency");
  }

  /** Some in different states, and somebody who is off and can still get in. */
  private void departures(Page page) throws Exception {
    client.done(
        "departures", "procedures", "employee", "--hand-over=3", "--delete=30", "--asks-return");
    var gone = client.json("people", "list", "--filter=department eq \"Catering\"").path("items");
    var lastDay = client.today();
    for (int i = 2; i < 6; i++) {
      client.done(
          "departures",
          "start",
          gone.path(i).path("id").asString(),
          "--last-day=" + lastDay.minusDays(i),
          "--release");
    }
    client.settle();
    client.done("departures", "pause", "2", "--reason=a claim is open");
    page.navigate("/ahead/departures");
    page.locator("tbody tr").nth(5).waitFor();
    take(page, "departures");
    var house = stage.mailHouse();
    var off = gone.path(7);
    var account = house.accounts().byName(off.path("login").asString()).path("id").asText();
    house.use().openWay(account, "token", "calendar on a phone");
    house.use().openWay(account, "forwarding rule", "all mail to home@post.example");
    client.done(
        "suspensions",
        "start",
        off.path("id").asString(),
        "--reason=inquiry",
        "--note=until the till is counted",
        "--review=" + lastDay.plusDays(14),
        "--release");
    page.navigate("/who/" + off.path("id").asString());
    page.getByText("calendar on a phone").waitFor();
    page.locator(".tide svg .span").first().waitFor();
    take(page, "still-open");
  }

  /** What somebody else does in the directory, found by a reading. */
  private void editUnseen() throws Exception {
    var crew = client.json("people", "list", "--filter=department eq \"Deck\"").path("items");
    for (int i = 3; i < 7; i++) {
      stage.directory().edit(crew.path(i).path("login").asString(), "title", "Relief " + i);
    }
    stage.directory().edit(crew.path(7).path("login").asString(), "loginAllowed", "FALSE");
    stage.directory().add("quay-camera", "Quay", "Camera");
    client.json("applications", "sync", "directory");
  }

  /** The first person a filter finds. */
  private String number(String filter) {
    return client
        .json("people", "list", "--filter", filter)
        .path("items")
        .get(0)
        .path("id")
        .asString();
  }

  private void take(Page page, String name) {
    page.waitForTimeout(600);
    page.screenshot(new ScreenshotOptions().setPath(folder.resolve(name + ".png")));
  }

  private static PrintStream quiet() {
    return new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
  }
}
