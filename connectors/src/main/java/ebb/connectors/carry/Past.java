package ebb.connectors.carry;

import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Map;
import java.util.Set;

/**
 * Sets what nobody has touched for long apart, as a kind of its own, so that somebody else can get
 * it than whoever goes on with the rest.
 *
 * @param kind what the rest is called
 * @param after null if nothing is set apart
 */
public record Past(String kind, Duration after, InstantSource clock) {
  private static final String PREFIX = "past-";

  /**
   * As an application's settings say.
   *
   * @param setting the one with the number of days; nothing is set apart where it is missing
   */
  public static Past of(String kind, Map<String, String> settings, String setting) {
    var days = settings.get(setting);
    return new Past(
        kind, days == null ? null : Duration.ofDays(Long.parseLong(days)), InstantSource.system());
  }

  public Set<String> kinds() {
    return after == null ? Set.of(kind) : Set.of(kind, PREFIX + kind);
  }

  /**
   * @param touched when it came, or was last changed; null where the server does not say, and then
   *     it is not past
   */
  public String kindOf(Instant touched) {
    var isPast = after != null && touched != null && touched.isBefore(clock.instant().minus(after));
    return isPast ? PREFIX + kind : kind;
  }

  /** What a kind is called where nothing is set apart. */
  public static String current(String kind) {
    return kind.startsWith(PREFIX) ? kind.substring(PREFIX.length()) : kind;
  }
}
