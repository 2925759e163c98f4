package ebb.core.application;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.function.Supplier;

/** Notes what goes over the wire while an instruction is carried out. Secrets are left out. */
public final class Wire {
  private static final ScopedValue<List<Exchange>> NOTES = ScopedValue.newInstance();
  private static final int LONGEST = 2_000;

  /**
   * One request and what came back.
   *
   * @param answer what went wrong, where nothing came back
   */
  public record Exchange(Instant askedAt, Instant answeredAt, String request, String answer) {
    public Exchange {
      request = clipped(request);
      answer = clipped(answer);
    }

    private static String clipped(String text) {
      return text.length() <= LONGEST ? text : text.substring(0, LONGEST) + " …";
    }
  }

  /** Calls, and notes what goes over the wire meanwhile on this thread, at the end of a list. */
  public static Outcome noting(List<Exchange> into, Supplier<Outcome> call) {
    return ScopedValue.where(NOTES, Collections.synchronizedList(into)).call(call::get);
  }

  /** Whether anybody wants to know: making a note costs something. */
  public static boolean isNoted() {
    return NOTES.isBound();
  }

  /** Does nothing if nobody wants to know. */
  public static void note(Exchange exchange) {
    if (NOTES.isBound()) {
      NOTES.get().add(exchange);
    }
  }

  private Wire() {}
}
