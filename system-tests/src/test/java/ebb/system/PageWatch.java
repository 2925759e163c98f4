package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.ConsoleMessage;
import com.microsoft.playwright.Page;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * What goes wrong in pages without their saying so: scripts that fail, and what the policy stops.
 */
final class PageWatch {
  /**
   * The browser says so of every answer that refuses something, which pages show in their words.
   */
  private static final Pattern REFUSED =
      Pattern.compile("Failed to load resource: .* status of 4\\d\\d .*");

  private final List<String> broken = new ArrayList<>();

  void follow(Page page) {
    page.onPageError(broken::add);
    page.onConsoleMessage(this::hear);
  }

  private void hear(ConsoleMessage message) {
    if (message.type().equals("error") && !REFUSED.matcher(message.text()).matches()) {
      broken.add(message.text());
    }
  }

  void forget() {
    broken.clear();
  }

  /** Leaves out what a test brought about itself. */
  void expect(String regex) {
    broken.removeIf(Pattern.compile(regex).asMatchPredicate());
  }

  void assertNothingBroke() {
    assertThat(broken).as("errors in the browser").isEmpty();
  }
}
