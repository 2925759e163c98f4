package ebb.demo;

import java.io.PrintStream;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What happened and whether it came true, printed as it goes. */
final class Report {
  private final PrintStream out;
  private final Instant begun = Instant.now();
  private final List<String> failures = new ArrayList<>();
  private int checks;

  Report(PrintStream out) {
    this.out = out;
  }

  void chapter(String title) {
    out.printf("%n%s%n", title);
  }

  void say(String text, Object... values) {
    out.printf("   %s%n", text.formatted(values));
  }

  /** Something asked of an application or of Ebb, and whether the answer was right. */
  void check(boolean isTrue, String what, Object... values) {
    var text = what.formatted(values);
    checks++;
    out.printf(" %s %s%n", isTrue ? "✓" : "✗", text);
    if (!isTrue) {
      failures.add(text);
    }
  }

  void same(Object expected, Object found, String what, Object... values) {
    var isSame =
        expected instanceof Number one && found instanceof Number other
            ? one.longValue() == other.longValue()
            : expected.equals(found);
    check(
        isSame,
        "%s",
        what.formatted(values)
            + (isSame ? "" : " (expected %s, found %s)".formatted(expected, found)));
  }

  /** Prints the end; true if all came true. */
  boolean end() {
    out.printf(
        "%n%s: %d of %d checks came true, in %d s.%n",
        failures.isEmpty() ? "All of it came true" : "NOT all of it came true",
        checks - failures.size(),
        checks,
        Duration.between(begun, Instant.now()).toSeconds());
    failures.forEach(failure -> out.println("   ✗ " + failure));
    return failures.isEmpty();
  }
}
