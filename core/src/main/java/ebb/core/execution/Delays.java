package ebb.core.execution;

import java.time.Duration;
import java.util.function.DoubleSupplier;

/**
 * How long to wait before the next try: growing, with jitter so that many do not come at once.
 *
 * @param jitter from 0 to below 1
 */
public record Delays(Duration first, Duration longest, DoubleSupplier jitter) {
  /** Doubles with each attempt up to the longest; then half to all of that. */
  public Duration after(int attempts) {
    var grown = first.toMillis() * Math.pow(2, Math.max(0, Math.min(attempts, 30) - 1));
    var capped = Math.min(grown, longest.toMillis());
    return Duration.ofMillis((long) (capped * (0.5 + jitter.getAsDouble() / 2)));
  }
}
