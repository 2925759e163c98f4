package ebb.system;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Request;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.Cookie;
import com.microsoft.playwright.options.WaitForSelectorState;
import ebb.demo.Client;
import ebb.demo.Scenario;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.OutputStream;
import java.io.PrintStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.testng.IHookCallBack;
import org.testng.IHookable;
import org.testng.ITestResult;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** The console as its users meet it: in a browser, with the real service beneath. */
public class ConsoleTest implements IHookable {
  private static final int WIDTH = 1280;
  private static final int HEIGHT = 800;
  private static final String NOTHING =
      "{\"items\":[],\"next\":null,\"total\":0,\"moreThan\":null}";
  private static final String TROUBLE =
      """
      {"status":503,"title":"The tide is out.","problems":[{"code":"test","what":"The tide is out.",\
      "why":"The moon pulled.","remedy":"Wait for the flood.","where":null}]}""";

  private Stage stage;
  private Client client;
  private Rest rest;
  private final PageWatch watch = new PageWatch();
  private BrowserContext context;
  private Page page;
  private final Set<Request> reading = new HashSet<>();
  private List<Cookie> signedIn;
  private String leaver;
  private String departure;

  @BeforeClass
  public void start() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    rest = new Rest(stage.url(), stage.token());
    Scenario.tellToTheSecondWeek(stage, new PrintStream(OutputStream.nullOutputStream()));
    leaver = people("stage eq \"leaving\" and userType eq \"employee\"").getFirst();
    departure = client.json("departures", "list").at("/items/0/id").asString();
    context = Chromium.shared().fresh(stage.url(), ColorScheme.LIGHT, WIDTH, HEIGHT);
    var first = context.newPage();
    Chromium.signIn(first);
    signedIn = context.cookies();
    first.close();
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    context.close();
    stage.close();
  }

  @BeforeMethod
  public void open() {
    context.clearCookies();
    context.addCookies(signedIn);
    page = context.newPage();
    watch.forget();
    watch.follow(page);
    reading.clear();
    page.onRequest(reading::add);
    page.onRequestFinished(reading::remove);
    page.onRequestFailed(reading::remove);
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    page.close();
  }

  /** What broke in a page is a failure of the test that opened it, not of the next. */
  @Override
  public void run(IHookCallBack test, ITestResult result) {
    test.runTestMethod(result);
    if (result.getThrowable() == null) {
      watch.assertNothingBroke();
    }
  }

  private List<String> people(String filter) {
    var ids = new ArrayList<String>();
    client
        .json("people", "list", "--filter", filter)
        .path("items")
        .forEach(one -> ids.add(one.path("id").asString()));
    return ids;
  }

  /** A change set that an edit of one value brings. */
  private String edit(String person, String attribute, String value) throws Exception {
    return rest.json(
            "PATCH",
            "/api/v1/people/" + person,
            "{\"attributes\": {\"%s\": \"%s\"}}".formatted(attribute, value))
        .body()
        .path("id")
        .asString();
  }

  /** Whether nothing is being read but streams of events, which never end. */
  private boolean isAllRead() {
    return reading.stream().allMatch(one -> one.url().endsWith("/events"));
  }

  private String at(String path) {
    return path.replace("{leaver}", leaver).replace("{departure}", departure);
  }

  // How it looks ---------------------------------------------------------------------------------

  /** Each page with something only its data shows. */
  @DataProvider
  public Object[][] pages() {
    return new Object[][] {
      {"/now", "Drift in directory"},
      {"/now/imports/new", "The file, as it is"},
      {"/now/imports/1", "Private mail is no mail address"},
      {"/now/imports/1?verdict=new", "What is said of them"},
      {"/now/change-sets/" + SetUp.FIRST_SET, "create account"},
      {"/why/attributes", "Define one of our own"},
      {"/ahead/departures", "First removal from"},
      {"/ahead", "What dates alone will bring"},
      {"/ahead/departures/{departure}", "Gates before it is deleted"},
      {"/behind", "Import hr-day-1.csv"},
      {"/behind?tab=journal", "synced directory"},
      {"/who", "people"},
      {"/who/{leaver}", "Rule directory-for-all gives it"},
      {"/who/{leaver}?tab=attributes", "Whose it is"},
      {"/who/{leaver}?tab=journal", "changed what hr says"},
      {"/where", "mail-house"},
      {"/where/directory", "look and put it right"},
      {"/why", "Make the operator and a link"},
      {"/self", "a stolen password alone"},
    };
  }

  @Test(dataProvider = "pages")
  public void aPageIsReadableByEverybodyInLightAndDarkAndNoWiderThanItsWindow(
      String path, String text) {
    page.navigate(at(path));
    page.getByText(text).first().waitFor();
    page.waitForCondition(this::isAllRead);
    assertThat((int) page.evaluate("document.documentElement.scrollWidth"))
        .isLessThanOrEqualTo(WIDTH);
    assertThat(violations(new AxeBuilder(page))).as("%s in light", path).isEmpty();
    page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
    // Nothing but colours is another in the dark.
    assertThat(violations(new AxeBuilder(page).withRules(List.of("color-contrast"))))
        .as("%s in the dark", path)
        .isEmpty();
  }

  /** Of rows that are made alike, the first ones stand for all. */
  private static List<String> violations(AxeBuilder axe) {
    return axe.exclude("tbody tr:nth-child(n+8)").analyze().getViolations().stream()
        .map(one -> one.getId() + ": " + one.getNodes())
        .toList();
  }

  @Test
  public void whoeverMistypesAnAddressIsShownWhereToGoOn() {
    var answer = page.navigate("/people/17");

    page.getByText("There is nothing at this address").waitFor();
    assertThat(answer.status()).isEqualTo(404);
  }

  /** Each page, what it reads, an empty answer, and what it then says. */
  @DataProvider
  public Object[][] states() {
    var emptyNow =
        """
        {"changesUnderWay":0,"changesRefused":0,"setsToRelease":0,"setsStopped":0,"noticesWaiting":0,\
        "noticesUndeliverable":0,"departuresRunning":0,"departuresToLookAt":0,"peopleToWake":0,"errands":[]}""";
    return new Object[][] {
      {"/now", "**/api/v1/now", emptyNow, "All is calm"},
      {
        "/now/imports/1?verdict=new", "**/api/v1/imports/1/rows*", NOTHING, "No row is of this kind"
      },
      {
        "/now/change-sets/" + SetUp.FIRST_SET,
        "**/api/v1/change-sets/" + SetUp.FIRST_SET + "/people*",
        NOTHING,
        "Nobody is of this kind"
      },
      {"/ahead/departures", "**/api/v1/departures?*", NOTHING, "No departure is running"},
      {"/behind", "**/api/v1/change-sets", NOTHING, "Nothing has happened yet"},
      {"/who", "**/api/v1/people?*", NOTHING, "There is nobody yet"},
      {"/who/{leaver}", "**/why", NOTHING, "No application is connected yet"},
      {"/who/{leaver}?tab=notices", "**/api/v1/notices*", NOTHING, "Nothing was sent to them"},
      {"/where", "**/api/v1/applications", NOTHING, "No application is connected yet"},
      {"/where/directory", "**/accounts*", NOTHING, "No account is known here yet"},
      {"/now/imports/1?verdict=refused", "**/problems", NOTHING, "No row is refused"},
      {"/why", "**/api/v1/tokens", NOTHING, "There is no token"},
    };
  }

  @Test(dataProvider = "states")
  public void aViewSaysThatItLoadsThatItFailedAndThatThereIsNothing(
      String path, String reads, String nothing, String words) {
    var held = new ArrayList<Route>();
    page.route(reads, held::add);
    page.navigate(at(path));
    page.getByText("Loading").first().waitFor(attached());
    page.unroute(reads);

    page.route(
        reads,
        route ->
            route.fulfill(
                new Route.FulfillOptions()
                    .setStatus(503)
                    .setContentType("application/problem+json")
                    .setBody(TROUBLE)));
    page.navigate(at(path));
    assertThat(page.getByText("The tide is out.").first()).isVisible();
    assertThat(page.getByText("Wait for the flood.").first()).isVisible();
    page.unroute(reads);

    page.route(
        reads,
        route ->
            route.fulfill(
                new Route.FulfillOptions().setContentType("application/json").setBody(nothing)));
    page.getByText("Try again").first().click();
    assertThat(page.getByText(words).first()).isVisible();
    watch.expect("Failed to load resource: .* status of 503 .*");
  }

  private static Locator.WaitForOptions attached() {
    return new Locator.WaitForOptions().setState(WaitForSelectorState.ATTACHED);
  }

  // What it keeps
  // ----------------------------------------------------------------------------------

  @Test
  public void backAndReloadKeepThePlace() {
    page.navigate("/who?unit=Deck&sort=-userName");
    var first = page.locator("tbody tr .who").first();
    first.waitFor();
    var name = first.innerText();
    first.getByRole(AriaRole.LINK).click();
    page.getByText("Holds and why").waitFor();
    page.goBack();
    assertThat(page).hasURL(Pattern.compile("unit=Deck&sort=-userName"));
    assertThat(first).hasText(name);
    page.reload();
    assertThat(first).hasText(name);
    assertThat(page.locator("tbody tr").first()).containsText("Deck");
  }

  @Test
  public void aChoiceOfPeopleStaysWhileFilteringOn() {
    page.navigate("/who?unit=Deck");
    page.locator("tbody input[type=checkbox]").first().check();
    page.getByLabel("Family name begins with").fill("sol");
    assertThat(page).hasURL(Pattern.compile("name=sol"));
    page.getByRole(AriaRole.BUTTON, named("Show everybody")).click();
    page.locator("tbody input[type=checkbox]").nth(5).check();
    assertThat(page.getByLabel("Chosen people")).containsText("2 people chosen");
    page.getByRole(AriaRole.BUTTON, named("Set a value for 2 people")).click();
    page.getByLabel("New value").fill("Night watch");
    page.getByRole(AriaRole.BUTTON, named("Show what it would change")).click();
    page.waitForURL(Pattern.compile("/now/change-sets/\\d+"));
    assertThat(page.getByRole(AriaRole.BUTTON, named("Release for 2 people"))).isVisible();
    page.getByRole(AriaRole.BUTTON, named("Give it up")).click();
    assertThat(page.getByText("given up; nothing of it was written")).isVisible();
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  // By keyboard
  // ------------------------------------------------------------------------------------

  @Test
  public void somebodyIsFoundAndReadWithoutAMouse() {
    page.navigate("/now");
    page.getByText("Drift in directory").first().waitFor();
    page.keyboard().press("/");
    assertThat(page.getByRole(AriaRole.COMBOBOX)).isFocused();
    page.keyboard().type("marit sol");
    page.keyboard().press("Enter");
    assertThat(page.getByRole(AriaRole.HEADING, named("Marit Solvik"))).isFocused();
    page.getByText("Rule directory-for-all gives it").waitFor();
    tabTo("12 values, each with its ground");
    page.keyboard().press("Enter");
    assertThat(page.getByText("person.title").first()).isVisible();
  }

  @Test
  public void aMarkOnTheTideLineIsReadByTabbing() {
    page.navigate(at("/who/{leaver}"));
    page.locator(".tide .mark.gate").first().focus();
    assertThat(page.locator(".tide .said")).containsText("Handover from this day");
  }

  @Test
  public void aChangeSetIsReleasedByKeyboard() throws Exception {
    var shown = client.json("people", "list", "--limit", "1").at("/items/0/id").asString();
    var set = edit(shown, "title", "Harbour pilot");
    page.navigate("/now");
    page.locator("a[href='/now/change-sets/" + set + "']").last().focus();
    page.keyboard().press("Enter");
    page.getByRole(AriaRole.BUTTON, named("Release for 1 person")).waitFor();
    tabTo("Release for 1 person");
    page.keyboard().press("Enter");
    assertThat(page.getByText(Pattern.compile("released by administrator"))).isVisible();
    assertThat(page.locator("tbody").getByText("seen").first()).isVisible();
  }

  /** Goes on by Tab alone until what has the focus reads so. */
  private void tabTo(String text) {
    for (int i = 0; i < 80; i++) {
      page.keyboard().press("Tab");
      var focused = String.valueOf(page.evaluate("document.activeElement.innerText ?? ''"));
      if (focused.contains(text)) {
        return;
      }
    }
    throw new AssertionError("Tab does not lead to: " + text);
  }

  // On a bad day
  // -----------------------------------------------------------------------------------

  @Test
  public void aWrongPasswordIsSaidAndTheNameStays() {
    context.clearCookies();
    page.navigate("/sign-in?to=/where");
    page.getByLabel("Name").fill("administrator");
    page.getByLabel("Password").fill("not the one at all");
    page.keyboard().press("Enter");
    assertThat(page.getByText("Name and password do not belong together.")).isVisible();
    assertThat(page.getByLabel("Name")).hasValue("administrator");
    page.getByLabel("Password").fill(Stage.PASSWORD);
    page.keyboard().press("Enter");
    assertThat(page).hasURL(Pattern.compile("/where$"));
  }

  @Test
  public void whatWasTypedOutlivesTheSignIn() {
    page.navigate(at("/who/{leaver}"));
    page.getByRole(AriaRole.BUTTON, named("Edit")).click();
    page.getByLabel("Job").fill("Lamp trimmer");
    context.clearCookies();
    page.getByRole(AriaRole.BUTTON, named("Show what it would change")).click();
    assertThat(page.getByText("Your sign-in is over")).isVisible();
    page.getByLabel("Password of administrator").fill(Stage.PASSWORD);
    page.keyboard().press("Enter");
    page.waitForURL(Pattern.compile("/now/change-sets/\\d+"));
    page.getByText("update").first().waitFor();
    assertThat(page.getByRole(AriaRole.BUTTON, named("Release for 1 person"))).isVisible();
    page.getByRole(AriaRole.BUTTON, named("Give it up")).click();
  }

  @Test
  public void anEditOnWhatSomebodyElseChangedShowsTheirsBesideOnesOwn() throws Exception {
    var person = people("department eq \"Engine\"").getFirst();
    page.navigate("/who/" + person);
    page.getByRole(AriaRole.BUTTON, named("Edit")).click();
    page.getByLabel("Job").fill("Stoker");
    var theirs = edit(person, "title", "Greaser");
    client.done("changes", "release", theirs);
    page.getByRole(AriaRole.BUTTON, named("Show what it would change")).click();
    assertThat(page.getByText(Pattern.compile("was edited since you read it"))).isVisible();
    assertThat(page.getByText("now: Greaser")).isVisible();
    assertThat(page.getByLabel("Job")).hasValue("Stoker");
    page.getByRole(AriaRole.BUTTON, named("Show what it would change")).click();
    page.waitForURL(Pattern.compile("/now/change-sets/\\d+"));
  }

  @Test
  public void nothingThatPeopleAreCalledRuns() throws Exception {
    var evil = "<img src=x onerror=window.hit=1><script>window.hit=2</script>";
    var long_ = "Wolfeschlegelsteinhausenbergerdorff".repeat(5);
    for (var name : List.of(evil, long_, "מרים")) {
      var set =
          rest.json(
              "POST",
              "/api/v1/people",
              JsonMapper.shared()
                  .writeValueAsString(
                      Map.of(
                          "attributes",
                          Map.of(
                              "name.givenName", name,
                              "name.familyName", "Zz" + name,
                              "title", name,
                              "department", name))));
      assertThat(set.status()).as(set.body().toString()).isEqualTo(201);
      client.done("changes", "release", set.body().path("id").asString());
    }
    for (var person : people("name.familyName sw \"Zz\"")) {
      for (var path : List.of("/who/" + person, "/who/" + person + "?tab=attributes")) {
        page.navigate(path);
        page.getByText("Holds and why").waitFor();
        assertThat((int) page.evaluate("document.documentElement.scrollWidth"))
            .isLessThanOrEqualTo(WIDTH);
      }
    }
    page.navigate("/who?name=zz");
    page.locator("tbody tr").first().waitFor();
    page.navigate("/behind?tab=notices");
    page.locator("tbody tr").first().waitFor();
    assertThat(page.evaluate("window.hit")).isNull();
    watch.assertNothingBroke();
    page.evaluate(
        "(() => { const s = document.createElement('script'); s.textContent = 'window.hit = 3'; document.body.append(s) })()");
    assertThat(page.evaluate("window.hit"))
        .as("the policy keeps scripts in the page from running")
        .isNull();
    // The browser says that it stopped this one.
    watch.forget();
  }

  @Test
  public void aSecondFactorIsTurnedOnAndAskedFor() throws Exception {
    page.navigate("/why");
    page.getByLabel("Name").fill("ottar");
    page.getByRole(AriaRole.BUTTON, named("Make the operator and a link")).click();
    var link = page.locator(".once code").first().innerText();
    context.clearCookies();
    page.navigate("about:blank");
    page.navigate(link);
    page.getByLabel("Password").fill("kelp forests at dawn");
    page.getByLabel("The same again").fill("kelp forests at dawn");
    page.keyboard().press("Enter");
    page.waitForURL("**/now");
    page.navigate("/self");
    page.getByRole(AriaRole.BUTTON, named("Begin")).click();
    var secret = page.locator("code").first().innerText().replace(" ", "");
    page.getByLabel("Code").fill(code(secret, 0));
    page.getByRole(AriaRole.BUTTON, named("Turn it on")).click();
    assertThat(page.getByText("every sign-in asks for a code")).isVisible();

    context.clearCookies();
    page.navigate("/sign-in");
    page.getByLabel("Name").fill("ottar");
    page.getByLabel("Password").fill("kelp forests at dawn");
    page.keyboard().press("Enter");
    page.getByLabel("Code of your second factor").fill(code(secret, 1));
    page.keyboard().press("Enter");
    page.waitForURL("**/now");
    assertThat(page.getByRole(AriaRole.LINK, named("Who").setExact(true))).isVisible();
    assertThat(page.getByRole(AriaRole.LINK, named("Where").setExact(true))).not().isVisible();
  }

  private static String code(String secret, int stepsAhead) throws Exception {
    return new TimeBasedOneTimePasswordGenerator()
        .generateOneTimePasswordString(
            new SecretKeySpec(new Base32().decode(secret), "HmacSHA1"),
            Instant.now().plusSeconds(30L * stepsAhead));
  }

  @Test(priority = 1)
  public void aPageOutlivesARestartOfTheService() throws Exception {
    page.navigate("/who");
    page.locator("tbody tr").first().waitFor();
    stage.killService();
    assertThat(page.getByText("What is shown may be old")).isVisible();
    assertThat(page.locator("tbody tr").first()).isVisible();
    stage.startService();
    assertThat(page.getByText("What is shown may be old"))
        .not()
        .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(30_000));
    page.getByRole(AriaRole.LINK, named("Where").setExact(true)).click();
    assertThat(page.getByText("mail-house")).isVisible();
    watch.expect("Failed to load resource: net::ERR_.*");
  }
}
