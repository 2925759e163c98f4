package ebb.system;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType.LaunchOptions;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ReducedMotion;
import ebb.demo.Stage;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/**
 * Debian's Chromium built for no window at all, which costs half the processor; it reaches nothing
 * but loopback.
 */
final class Chromium implements AutoCloseable {
  /** Milliseconds. A machine shared with others may give a page a tenth of a processor. */
  private static final double LONGEST = 60_000;

  private static final Path EXECUTABLE = Path.of("/usr/bin/chromium-headless-shell");

  private static Chromium shared;

  private final Playwright playwright =
      Playwright.create(
          new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
  private final Browser browser =
      playwright
          .chromium()
          .launch(
              new LaunchOptions()
                  .setExecutablePath(EXECUTABLE)
                  .setChromiumSandbox(false)
                  .setArgs(
                      List.of(
                          "--disable-gpu",
                          "--disable-quic",
                          "--no-first-run",
                          "--disable-background-networking",
                          "--disable-component-update",
                          "--disable-sync",
                          "--disable-dev-shm-usage")));

  /** The browser of all test classes of this process; it ends with the process. */
  static synchronized Chromium shared() {
    if (shared == null) {
      shared = new Chromium();
    }
    return shared;
  }

  /** A page in another zone, with no server behind it: whatever it asks for is empty. */
  Page alone(String zone) {
    var page = browser.newContext(new Browser.NewContextOptions().setTimezoneId(zone)).newPage();
    page.route("**/*", route -> route.fulfill());
    page.navigate("http://console.example/");
    return page;
  }

  /** A browser nobody has used yet. */
  BrowserContext fresh(String url, ColorScheme scheme, int width, int height) {
    var context =
        browser.newContext(
            new Browser.NewContextOptions()
                .setBaseURL(url)
                .setLocale("en-GB")
                .setTimezoneId("Europe/Oslo")
                .setColorScheme(scheme)
                .setReducedMotion(ReducedMotion.REDUCE)
                .setViewportSize(width, height));
    context.setDefaultTimeout(LONGEST);
    PlaywrightAssertions.setDefaultAssertionTimeout(LONGEST);
    return context;
  }

  static void signIn(Page page) {
    signIn(page, Stage.OPERATOR, Stage.PASSWORD);
  }

  static void signIn(Page page, String name, String password) {
    page.navigate("/sign-in");
    page.getByLabel("Name").fill(name);
    page.getByLabel("Password").fill(password);
    page.getByText("Sign in", new Page.GetByTextOptions().setExact(true)).last().click();
    page.waitForURL("**/now");
  }

  @Override
  public void close() {
    browser.close();
    playwright.close();
  }
}
