package ebb.service.events;

import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.journal.Journal;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Looks twice a second, for all open pages together, whether anything was written: every deed
 * leaves an entry in the journal, and applications count how often findings were looked at. Other
 * processes on the same database are seen too.
 */
@Component
final class Pulse {
  private static final int MOST_PAGES = 500;
  private static final Duration LONGEST = Duration.ofMinutes(30);

  /** Proxies and sleeping laptops drop silent connections. */
  private static final Duration BETWEEN_SIGNS = Duration.ofSeconds(15);

  /** What is written changes; nothing of it is told but that it did. */
  private record Beat(long journal, long looks) {}

  private final Database database;
  private final Journal journal;
  private final Applications applications;
  private final Set<SseEmitter> pages = ConcurrentHashMap.newKeySet();
  private volatile Beat last = new Beat(-1, 0);
  private volatile Instant signedAt = Instant.EPOCH;

  Pulse(Database database, Journal journal, Applications applications) {
    this.database = database;
    this.journal = journal;
    this.applications = applications;
  }

  /**
   * @throws Refusal if too many pages are open
   */
  SseEmitter open() {
    if (pages.size() >= MOST_PAGES) {
      throw new Refusal(
          Refusal.Kind.UNAVAILABLE,
          new Problem(
              "too-many-pages",
              "%d pages are followed already.".formatted(MOST_PAGES),
              "Each holds a connection open.",
              "Close some; this page can be loaded again by hand.",
              null));
    }
    var page = new SseEmitter(LONGEST.toMillis());
    page.onCompletion(() -> pages.remove(page));
    page.onTimeout(page::complete);
    page.onError(_ -> pages.remove(page));
    pages.add(page);
    send(page, SseEmitter.event().name("open").data("{}", MediaType.APPLICATION_JSON));
    return page;
  }

  @Scheduled(fixedDelay = 500)
  void look() {
    if (pages.isEmpty()) {
      return;
    }
    var beat =
        database.read(session -> new Beat(journal.latest(session), applications.looks(session)));
    var now = Instant.now();
    if (!beat.equals(last)) {
      last = beat;
      signedAt = now;
      pages.forEach(
          page ->
              send(
                  page, SseEmitter.event().name("changed").data(beat, MediaType.APPLICATION_JSON)));
    } else if (signedAt.plus(BETWEEN_SIGNS).isBefore(now)) {
      signedAt = now;
      pages.forEach(page -> send(page, SseEmitter.event().comment("still here")));
    }
  }

  /** Streams that never end would hold an orderly stop up for as long as it waits for requests. */
  @EventListener(ContextClosedEvent.class)
  void end() {
    pages.forEach(SseEmitter::complete);
  }

  private void send(SseEmitter page, SseEmitter.SseEventBuilder event) {
    try {
      page.send(event);
    } catch (IOException | IllegalStateException _) {
      // The page was closed; it opens another stream if it comes back.
      pages.remove(page);
    }
  }
}
