package ebb.service.feeds;

import ebb.connectors.feed.Folder;
import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.store.Database;
import ebb.store.feeds.Feeds;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Looks into watched folders for files that are whole. */
@Component
final class FolderWatch {
  private static final Logger LOG = LoggerFactory.getLogger(FolderWatch.class);

  private final Database database;
  private final Feeds feeds;
  private final FeedTimes times;
  private final FeedRunner runner;
  private final Map<Origin, Folder> folders = new HashMap<>();
  private final Set<String> busy = ConcurrentHashMap.newKeySet();

  FolderWatch(Database database, Feeds feeds, FeedTimes times, FeedRunner runner) {
    this.database = database;
    this.feeds = feeds;
    this.times = times;
    this.runner = runner;
  }

  /** Twice a look makes a file whole, so a delivery is taken within two of these at the most. */
  @Scheduled(fixedDelay = 700)
  synchronized void look() {
    try {
      var seen = new HashSet<Origin>();
      for (var feed : database.read(feeds::list)) {
        if (feed.state() == Feed.State.ON && feed.origin().kind() == Origin.Kind.FOLDER) {
          seen.add(feed.origin());
          look(feed);
        }
      }
      folders.keySet().retainAll(seen);
    } catch (RuntimeException e) {
      LOG.error("Folders could not be looked at; this is tried again", e);
    }
  }

  private void look(Feed feed) {
    var folder = folders.computeIfAbsent(feed.origin(), Folder::new);
    if (!times.isBlackout(feed) && busy.add(feed.source())) {
      Thread.ofVirtual()
          .name("feed-" + feed.source())
          .start(
              () -> {
                try {
                  runner.take(feed, folder, FeedRunner.Why.DELIVERY);
                } finally {
                  busy.remove(feed.source());
                }
              });
    }
  }
}
