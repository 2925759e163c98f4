package ebb.service.push;

import ebb.core.feed.Feed;
import ebb.core.feed.Origin;
import ebb.core.imports.Mapping;
import ebb.core.imports.Source;
import ebb.core.problem.Refusal;
import ebb.core.rule.Expressions;
import ebb.service.changes.Releases;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.feeds.Feeds;
import ebb.store.people.OwnAttributes;
import ebb.store.people.Sources;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** The sources to which somebody pushes. */
@Component
public final class PushSources {

  private final Database database;
  private final BusinessClock clock;
  private final Feeds feeds;
  private final Sources sources;
  private final OwnAttributes attributes;
  private final Expressions expressions = new Expressions();

  PushSources(
      Database database,
      BusinessClock clock,
      Feeds feeds,
      Sources sources,
      OwnAttributes attributes) {
    this.database = database;
    this.clock = clock;
    this.feeds = feeds;
    this.sources = sources;
    this.attributes = attributes;
  }

  /** The source to which a token lets one push. */
  Optional<String> ofToken(String token) {
    return database
        .read(session -> feeds.ofToken(session, SecretBox.hash(token)))
        .filter(feed -> feed.origin().kind() == Origin.Kind.PUSH)
        .map(Feed::source);
  }

  /** Has a source read what is pushed to it by the names that SCIM has for it. */
  public Source mapped(StatelessSession session, String source) {
    var before = sources.get(session, source);
    var mapping = mapping(session, before);
    if (before.isPresent() && mapping.equals(before.get().mapping())) {
      return before.get();
    }
    sources.put(
        session,
        new Source(
            source,
            before.map(Source::rank).orElse(Source.USUAL_RANK),
            Source.Kind.FILE,
            mapping,
            before.map(Source::version).orElse(0L)),
        Releases.BY_ITSELF,
        clock.instant());
    return sources.get(session, source).orElseThrow();
  }

  private Mapping mapping(StatelessSession session, Optional<Source> source) {
    return PushedColumns.mapping(
        source.map(Source::mapping).orElse(null), attributes.catalogue(session));
  }

  /** Who pushes to a source, for one request. */
  Sender sender(String source) {
    return database.read(
        session -> {
          var feed =
              feeds
                  .get(session, source)
                  .orElseThrow(() -> Refusal.notFound("feed", source, "Ask for another token."));
          var catalogue = attributes.catalogue(session);
          var mapping = mapping(session, sources.get(session, source));
          return new Sender(
              source,
              feed.origin().setting(Origin.GROUPS_IN),
              new PushSchemas(catalogue),
              mapping.layout(source, PushedColumns.headings(mapping), catalogue, expressions));
        });
  }

  /** The number in a feed's mark; 0 if nothing was delivered yet. */
  static long mark(String mark) {
    return mark == null ? 0 : Long.parseLong(mark);
  }
}
