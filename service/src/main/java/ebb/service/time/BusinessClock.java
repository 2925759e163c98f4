package ebb.service.time;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.store.Database;
import ebb.store.settings.Settings;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneId;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** The time by which people start, end and are waited for. The demo can move it forward. */
@Component
public final class BusinessClock implements InstantSource {
  private static final String AHEAD = "clock-ahead";

  /** The demo moved the time forward: whatever goes by dates looks at once. */
  public record Moved(Instant to) {}

  private final Database database;
  private final Settings settings;
  private final ApplicationEventPublisher events;
  private final ZoneId zone;
  private final boolean movable;
  private volatile Duration ahead;

  BusinessClock(
      Database database,
      Settings settings,
      ApplicationEventPublisher events,
      @Value("${ebb.zone}") ZoneId zone,
      @Value("${ebb.demo}") boolean movable) {
    this.database = database;
    this.settings = settings;
    this.events = events;
    this.zone = zone;
    this.movable = movable;
    this.ahead =
        movable
            ? database
                .read(session -> settings.get(session, AHEAD))
                .map(Duration::parse)
                .orElse(Duration.ZERO)
            : Duration.ZERO;
  }

  @Override
  public Instant instant() {
    return Instant.now().plus(ahead);
  }

  /** The organisation's time zone, for people who have none of their own. */
  public ZoneId zone() {
    return zone;
  }

  /** The organisation's day. */
  public LocalDate today() {
    return LocalDate.ofInstant(instant(), zone);
  }

  public boolean isMovable() {
    return movable;
  }

  /**
   * Moves the business time forward; what it makes due has been begun when this returns.
   *
   * @throws Refusal outside the demo, and backwards
   */
  public void moveTo(Instant to) {
    if (!movable || to.isBefore(instant())) {
      throw Refusal.conflict(
          new Problem(
              "clock-not-movable",
              movable
                  ? "The business time can only go forward."
                  : "The business time runs by itself here.",
              "What was done at a later time cannot be undone by an earlier clock.",
              movable ? "Name a later time." : "Only the demo moves it.",
              null));
    }
    ahead = Duration.between(Instant.now(), to);
    database.writeAll(session -> settings.put(session, AHEAD, ahead.toString()));
    events.publishEvent(new Moved(to));
  }
}
