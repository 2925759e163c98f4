package ebb.connectors.dav;

import ebb.connectors.carry.Content;
import ebb.connectors.carry.ItemProblems;
import ebb.connectors.carry.Lanes;
import ebb.connectors.carry.Past;
import ebb.core.application.Carrier;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URI;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.apache.hc.client5.http.utils.DateUtils;
import org.apache.hc.core5.http.ContentType;

/** Carries files from one account to another on the same WebDAV server. */
final class FileCarrier implements Carrier {
  static final String KIND = "files";
  private static final int LANES = 4;
  private static final Set<Integer> NO_COPY = Set.of(403, 405, 501, 502);
  private static final int NOT_THERE = 404;
  private static final int MOST_NAMES = 1_000;

  private final Dav dav;
  private final Homes homes;
  private final Past past;

  /**
   * @param past by when files were last changed
   */
  FileCarrier(Homes homes, Past past) {
    this.dav = homes.dav();
    this.homes = homes;
    this.past = past;
  }

  @Override
  public Set<String> kinds() {
    return past.kinds();
  }

  /** One collection is asked at a time: many servers do not list whole trees at once. */
  @Override
  public void items(String accountId, Consumer<Item> each) throws Unreachable {
    var home = homes.of(accountId);
    homes.require(home);
    var waiting = new ArrayDeque<DavPath>();
    waiting.add(DavPath.HOME);
    while (!waiting.isEmpty()) {
      var collection = waiting.poll();
      var inside = inside(home, collection);
      for (var one : inside) {
        if (one.key().isCollection()) {
          waiting.add(one.key().path());
        } else {
          each.accept(item(one.key(), past.kindOf(one.changed())));
        }
      }
      if (inside.isEmpty() && !collection.equals(DavPath.HOME)) {
        each.accept(item(new ResourceKey(collection, "", true, 0), KIND));
      }
    }
  }

  /**
   * A file or a folder as its folder lists it.
   *
   * @param changed when it was last; null where the server does not say
   */
  private record Listed(ResourceKey key, Instant changed) {}

  private List<Listed> inside(String home, DavPath collection) throws Unreachable {
    var base = DavPath.of(URI.create(home).getRawPath());
    var all = new ArrayList<Listed>();
    var found =
        dav.find(
            collection.under(home, true),
            1,
            "resourcetype",
            "getcontentlength",
            "getetag",
            "getlastmodified");
    for (var one : found.orElse(List.of())) {
      var path = DavPath.of(URI.create(one.href()).getRawPath());
      // The collection itself comes along.
      if (path.names().size() == base.names().size() + collection.names().size() + 1) {
        var key =
            new ResourceKey(
                new DavPath(path.names().subList(base.names().size(), path.names().size())),
                Dav.strong(one.properties().getOrDefault("getetag", "")),
                one.isCollection(),
                Long.parseLong(one.properties().getOrDefault("getcontentlength", "0")));
        all.add(
            new Listed(
                key,
                DateUtils.parseStandardDate(one.properties().getOrDefault("getlastmodified", ""))));
      }
    }
    return all;
  }

  private static Item item(ResourceKey key, String kind) {
    return new Item(
        key.text(),
        kind,
        key.isCollection() ? "empty folder " + key.path().words() : key.path().words(),
        key.bytes(),
        "",
        true);
  }

  @Override
  public boolean open(String accountId, String item, OutputStream to) throws Unreachable {
    return homes.open(accountId, item, to);
  }

  @Override
  public OptionalLong room(String accountId) throws Unreachable {
    return homes.room(accountId);
  }

  @Override
  public void carry(Route route, List<Item> items, Predicate<Carried> each) throws Unreachable {
    var run = new Run(homes.of(route.from()), homes.of(route.to()), route);
    Lanes.carry(LANES, items, () -> run::carried, each);
  }

  /** Some files on their way. */
  private final class Run {
    private final String from;
    private final String to;
    private final Route route;
    private final DavPath place;
    private final Set<DavPath> made = ConcurrentHashMap.newKeySet();

    Run(String from, String to, Route route) {
      this.from = from;
      this.to = to;
      this.route = route;
      this.place = DavPath.HOME.below(route.place().replace('/', '-'));
    }

    Carried carried(Item item) throws Unreachable {
      var key = ResourceKey.of(item.id());
      var target = place.below(key.path());
      var folder = key.isCollection() ? target : target.parent();
      var amiss = make(folder, item);
      if (amiss != null) {
        return new NotCarried(item.id(), amiss);
      }
      if (key.isCollection()) {
        return new Arrived(item.id(), target.words(), "", target.words());
      }
      var sha256 = dav.sha256(key.path().under(from, false), key.etag());
      return sha256.isEmpty()
          ? new NotCarried(item.id(), ItemProblems.gone(item))
          : copied(item, key, folder, sha256.get());
    }

    /** Under its own name, or the next that is free, where another of that name is there. */
    private Carried copied(Item item, ResourceKey key, DavPath folder, String sha256)
        throws Unreachable {
      for (int number = 1; number <= MOST_NAMES; number++) {
        var target = folder.below(named(key.path().last(), number));
        var at = target.under(to, false);
        var status = written(key, at);
        if (status == 507) {
          throw new Unreachable(full(), null);
        }
        var isDone = status >= 200 && status < 300;
        if (!isDone && status != 412) {
          return new NotCarried(item.id(), refused(item, status));
        }
        if (dav.sha256(at, "").filter(sha256::equals).isPresent()) {
          return new Arrived(item.id(), target.words(), sha256, target.words());
        }
        if (isDone) {
          return new NotCarried(item.id(), altered(item, target));
        }
      }
      return new NotCarried(item.id(), refused(item, 412));
    }

    /** By the server itself, or through our hands where it does not copy. */
    private int written(ResourceKey key, URI at) throws Unreachable {
      var source = key.path().under(from, false);
      var status = dav.copy(source, at);
      if (!NO_COPY.contains(status)) {
        return status;
      }
      try (var content = new Content()) {
        return dav.get(source, key.etag(), content).isPresent()
            ? dav.put(at, content, ContentType.APPLICATION_OCTET_STREAM)
            : NOT_THERE;
      } catch (IOException e) {
        throw dav.unreachable(e);
      }
    }

    /**
     * One at a time: a server may refuse two that make the same folder at the same moment.
     *
     * @return null if all of it is there
     */
    private synchronized Problem make(DavPath folder, Item item) throws Unreachable {
      for (int depth = 1; depth <= folder.names().size(); depth++) {
        var part = new DavPath(folder.names().subList(0, depth));
        if (made.contains(part)) {
          continue;
        }
        var status = dav.makeCollection(part.under(to, true));
        if (status == 507) {
          throw new Unreachable(full(), null);
        }
        // 405: there is something of that name (RFC 4918, 9.3.1).
        if (status != 201 && status != 405) {
          return refused(item, status);
        }
        made.add(part);
      }
      return null;
    }

    private Problem full() {
      return new Problem(
          "recipient-full",
          "%s has no room for more files.".formatted(route.to()),
          "The server takes nothing more (507).",
          "Give them more room, or name somebody else; then retry. What has arrived stays.",
          null);
    }
  }

  /** "report.odt", "report (2).odt", "report (3).odt" … */
  private static String named(String name, int number) {
    if (number == 1) {
      return name;
    }
    var dot = name.lastIndexOf('.');
    return dot <= 0
        ? "%s (%d)".formatted(name, number)
        : "%s (%d)%s".formatted(name.substring(0, dot), number, name.substring(dot));
  }

  private static Problem altered(Item item, DavPath there) {
    return new Problem(
        "item-altered",
        "%s has another checksum at %s.".formatted(item.name(), there.words()),
        "It was changed while it was copied, or the server keeps it otherwise.",
        "Retry: stock is taken anew; what has arrived is put beside it.",
        null);
  }

  private static Problem refused(Item item, int status) {
    return status == 423 || status == 424
        ? new Problem(
            "item-locked",
            "%s is locked.".formatted(item.name()),
            "Somebody works on it, or on its folder, or never ended that (%d).".formatted(status),
            "Have the lock ended there; then retry.",
            null)
        : new Problem(
            "item-refused",
            "%s is not taken.".formatted(item.name()),
            "The server answered %d.".formatted(status),
            "Save it by other means, and leave it out with a reason; or mend it there and retry.",
            null);
  }
}
