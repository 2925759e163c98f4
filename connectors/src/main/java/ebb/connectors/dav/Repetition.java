package ebb.connectors.dav;

import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import net.fortuna.ical4j.model.Recur;

/** How something comes again (RFC 5545, 3.3.10), and what of it lies on which side of a day. */
final class Repetition {
  private static final Set<String> BY_DAYS = Set.of("DAILY", "WEEKLY", "MONTHLY", "YEARLY");
  private static final Set<String> WITHIN_DAYS = Set.of("BYHOUR", "BYMINUTE", "BYSECOND");
  private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss");

  private final Moment start;
  private final Map<String, String> rule = new LinkedHashMap<>();
  private final Recur<LocalDateTime> recur;

  /**
   * @param rule as the property has it
   */
  Repetition(Moment start, String rule) {
    this.start = start;
    for (var part : rule.split(";")) {
      var equals = part.indexOf('=');
      this.rule.put(part.substring(0, equals).toUpperCase(Locale.ROOT), part.substring(equals + 1));
    }
    // All of it by the clock of its place: at nine it is at nine on either side of summer.
    var local = new LinkedHashMap<>(this.rule);
    local.computeIfPresent("UNTIL", (_, until) -> LOCAL.format(start.until(until)));
    this.recur = new Recur<>(text(local));
  }

  private static String text(Map<String, String> rule) {
    return rule.entrySet().stream()
        .map(one -> one.getKey() + "=" + one.getValue())
        .collect(Collectors.joining(";"));
  }

  /** Not more than once a day, so that it can be gone through. */
  boolean isByDays() {
    return BY_DAYS.contains(rule.get("FREQ"))
        && rule.keySet().stream().noneMatch(WITHIN_DAYS::contains);
  }

  List<LocalDateTime> before(ZonedDateTime day) {
    var end = start.byItsClock(day);
    return end.isAfter(start.wall())
        ? recur.getDates(start.wall(), start.wall(), end.minusSeconds(1))
        : List.of();
  }

  /** The first on that day or later. */
  Optional<LocalDateTime> next(ZonedDateTime day) {
    var from = start.byItsClock(day).minusSeconds(1);
    return from.isBefore(start.wall())
        ? Optional.of(start.wall())
        : Optional.ofNullable(recur.getNextDate(start.wall(), from));
  }

  /** The rule for those until one of them. */
  String endingWith(LocalDateTime last) {
    var ending = new LinkedHashMap<>(rule);
    ending.remove("COUNT");
    ending.put("UNTIL", start.until(last));
    return text(ending);
  }

  /** The rule for the others. */
  String without(int first) {
    var others = new LinkedHashMap<>(rule);
    others.computeIfPresent(
        "COUNT", (_, count) -> Integer.toString(Integer.parseInt(count) - first));
    return text(others);
  }
}
