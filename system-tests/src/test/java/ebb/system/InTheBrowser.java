package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.Cookie;
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.util.List;
import org.testng.IHookCallBack;
import org.testng.IHookable;
import org.testng.ITestResult;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;

/** An operator who is signed in, with a fresh page for each test; no page may break. */
abstract class InTheBrowser implements IHookable {
  static final LocatorAssertions.ContainsTextOptions PATIENTLY =
      new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

  Stage stage;
  Client client;
  Page page;

  /** How often a button was pressed. */
  int acts;

  private final PageWatch watch = new PageWatch();
  private BrowserContext context;
  private List<Cookie> signedIn;

  @BeforeClass
  public void startService() throws Exception {
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    context = Chromium.shared().fresh(stage.url(), ColorScheme.LIGHT, 1280, 800);
    var page = context.newPage();
    Chromium.signIn(page);
    signedIn = context.cookies();
    page.close();
  }

  @AfterClass(alwaysRun = true)
  public void stopService() throws Exception {
    context.close();
    stage.close();
  }

  @BeforeMethod
  public void open() {
    acts = 0;
    watch.forget();
    open(ColorScheme.LIGHT);
  }

  private void open(ColorScheme scheme) {
    context.clearCookies();
    context.addCookies(signedIn);
    page = context.newPage();
    page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
    watch.follow(page);
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

  /** Closes the page and all that it kept, and goes on in another. */
  void openAnother(ColorScheme scheme) {
    page.close();
    open(scheme);
    page.navigate("/now");
  }

  void act(String button) {
    acts++;
    try {
      button(button).first().click();
    } catch (TimeoutError e) {
      var shown = page.locator("main").innerText();
      throw new AssertionError(page.url() + " has no “" + button + "”:\n" + shown, e);
    }
  }

  Locator button(String words) {
    return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(words));
  }

  /** WCAG 2.2, as far as a program can tell. */
  void isAccessible() {
    assertThat(new AxeBuilder(page).analyze().getViolations()).extracting("id", "help").isEmpty();
  }
}
