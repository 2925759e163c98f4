package ebb.service.feeds;

import ebb.api.ErrandView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.feeds.Feeds;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Feeds that stand still. */
@Component
final class FeedErrands implements Errands {
  private final Feeds feeds;

  FeedErrands(Feeds feeds) {
    this.feeds = feeds;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return caller.may(Act.SEE_SETTINGS)
        ? feeds.list(session).stream()
            .flatMap(
                feed ->
                    feeds.trouble(session, feed.source()).stream()
                        .map(
                            trouble ->
                                new ErrandView(
                                    STOPPED,
                                    "feed",
                                    feed.source(),
                                    "Feed %s needs a look".formatted(feed.source()),
                                    trouble.problem().what(),
                                    "See why",
                                    trouble.since())))
            .limit(MOST)
            .toList()
        : List.of();
  }
}
