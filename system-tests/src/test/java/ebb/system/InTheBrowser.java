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
import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;

/** An operator who is signed in, in a fresh browser for each test; no page may break. */
abstract class InTheBrowser {
  static final LocatorAssertions.ContainsTextOptions PATIENTLY =
      new LocatorAssertions.ContainsTextOptions().setTimeout(60_000);

  Stage stage;
  Client client;
  Page page;

  /** How often a button was pressed. */
  int acts;

  private Chromium chromium;
  private BrowserContext context;
  private final List<String> broken = new ArrayList<>();

  @BeforeClass
  public void startService() throws Exception {
    stage = Services.start();
    chromium = new Chromium();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  public void stopService() throws Exception {
    chromium.close();
    stage.close();
  }

  @BeforeMethod
  public void open() {
    acts = 0;
    broken.clear();
    open(ColorScheme.LIGHT);
  }

  private void open(ColorScheme scheme) {
    context = chromium.fresh(stage.url(), scheme, 1280, 800);
    page = context.newPage();
    page.onPageError(broken::add);
    Chromium.signIn(page);
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    context.close();
    assertThat(broken).isEmpty();
  }

  /** Closes the browser, and signs in with another. */
  void openAnother(ColorScheme scheme) {
    context.close();
    open(scheme);
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
