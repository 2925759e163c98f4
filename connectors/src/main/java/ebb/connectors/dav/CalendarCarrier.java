package ebb.connectors.dav;

import ebb.connectors.carry.Content;
import ebb.connectors.carry.ItemProblems;
import ebb.connectors.carry.Lanes;
import ebb.connectors.carry.Logins;
import ebb.core.application.Carrier;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.hc.core5.http.ContentType;

/**
 * Carries what stands in calendars from one account to another on the same CalDAV server (RFC
 * 4791). What is to come is the recipient's to call from then on; what is past lies apart from it.
 */
final class CalendarCarrier implements Carrier {
  private static final String MEETINGS = "calendar";
  private static final String TASKS = "tasks";
  private static final int LANES = 4;
  private static final long LARGEST = 16 << 20;
  private static final ContentType TYPE =
      ContentType.create("text/calendar", StandardCharsets.UTF_8);

  private final Dav dav;
  private final Homes homes;
  private final Logins addresses;
  private final Optional<String> pastWith;
  private final boolean tells;

  /**
   * @param addresses by which owners are invited
   * @param pastWith who keeps what is past, by their name there; the recipient if empty
   * @param tells whether attendees are told who calls their meetings now
   */
  CalendarCarrier(Homes homes, Logins addresses, Optional<String> pastWith, boolean tells) {
    this.dav = homes.dav();
    this.homes = homes;
    this.addresses = addresses;
    this.pastWith = pastWith;
    this.tells = tells;
  }

  @Override
  public Set<String> kinds() {
    return Set.of(MEETINGS, TASKS);
  }

  @Override
  public void items(String accountId, Consumer<Item> each) throws Unreachable {
    var home = homes.of(accountId);
    homes.require(home);
    for (var calendar : calendars(home).entrySet()) {
      var found =
          dav.find(
              calendar.getKey().under(home, true),
              1,
              "resourcetype",
              "getcontentlength",
              "getcontenttype",
              "getetag");
      found.stream()
          .flatMap(List::stream)
          .filter(one -> !one.isCollection())
          .map(one -> item(home, calendar.getValue(), one))
          .forEach(each);
    }
  }

  /** What an account's calendars are called, by where they are. */
  private Map<DavPath, String> calendars(String home) throws Unreachable {
    return dav.find(URI.create(home), 1, "resourcetype", "displayname").stream()
        .flatMap(List::stream)
        .filter(Multistatus.Response::isCalendar)
        .collect(
            Collectors.toMap(
                one -> below(home, one.href()),
                one ->
                    Optional.ofNullable(one.properties().get("displayname"))
                        .filter(name -> !name.isBlank())
                        .orElse(below(home, one.href()).last())));
  }

  private static DavPath below(String home, String href) {
    var base = DavPath.of(URI.create(home).getRawPath()).names().size();
    var names = DavPath.of(URI.create(href).getRawPath()).names();
    return new DavPath(names.subList(base, names.size()));
  }

  /** What it is about is nobody's business but its reader's. */
  private static Item item(String home, String calendar, Multistatus.Response one) {
    var key =
        new ResourceKey(
            below(home, one.href()),
            Dav.strong(one.properties().getOrDefault("getetag", "")),
            false,
            Long.parseLong(one.properties().getOrDefault("getcontentlength", "0")));
    var type = one.properties().getOrDefault("getcontenttype", "").toLowerCase(Locale.ROOT);
    return new Item(
        key.text(),
        type.contains("component=vtodo") ? TASKS : MEETINGS,
        "%s, entry %s".formatted(calendar, key.path().last()),
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
    var change =
        new CalendarObject.Change(
            route.day(), addresses.of(route.from()), addresses.of(route.to()), tells);
    var run = new Run(route, change);
    Lanes.carry(LANES, items, () -> run::carried, each);
  }

  /** One side of something that was taken apart, where it is to be. */
  private record Half(String home, String ending, String text) {}

  /** It is not where it was to be. */
  private static final class Amiss extends Exception {
    private static final long serialVersionUID = 1L;

    private final transient Problem problem;

    Amiss(Problem problem) {
      super(problem.what(), null, false, false);
      this.problem = problem;
    }
  }

  /** Some of it on its way. */
  private final class Run {
    private final Route route;
    private final CalendarObject.Change change;
    private final String from;
    private final String to;
    private final Map<DavPath, String> names;
    private final Set<URI> made = ConcurrentHashMap.newKeySet();

    Run(Route route, CalendarObject.Change change) throws Unreachable {
      this.route = route;
      this.change = change;
      this.from = homes.of(route.from());
      this.to = homes.of(route.to());
      this.names = calendars(from);
    }

    Carried carried(Item item) throws Unreachable {
      var key = ResourceKey.of(item.id());
      try {
        var text = text(item, key);
        var apart = CalendarObject.apart(text, change);
        var halves =
            Stream.of(
                    apart
                        .map(CalendarObject.Apart::past)
                        .map(
                            past ->
                                new Half(pastWith.map(homes::named).orElse(to), ", past", past)),
                    apart
                        .map(CalendarObject.Apart::coming)
                        .or(() -> apart.isPresent() ? Optional.empty() : Optional.of(text))
                        .map(coming -> new Half(to, "", coming)))
                .flatMap(Optional::stream)
                .toList();
        var where = halves.stream().map(half -> name(key, half)).collect(Collectors.joining("; "));
        for (var half : halves) {
          put(item, key, half);
        }
        return new Arrived(
            item.id(),
            key.path().last(),
            halves.stream()
                .map(half -> CalendarPrint.of(half.text()))
                .reduce(CalendarPrint::both)
                .orElseThrow(),
            apart.isPresent() ? where : where + ", as it was: it cannot be read");
      } catch (Amiss e) {
        return new NotCarried(item.id(), e.problem);
      }
    }

    private String text(Item item, ResourceKey key) throws Unreachable, Amiss {
      if (item.bytes() > LARGEST) {
        throw new Amiss(tooLarge(item));
      }
      return read(key.path().under(from, false), key.etag())
          .map(Found::text)
          .orElseThrow(() -> new Amiss(ItemProblems.gone(item)));
    }

    /** What the calendar is called in which it is there. */
    private String name(ResourceKey key, Half half) {
      var calendar = key.path().parent();
      return "%s, %s%s"
          .formatted(route.place(), names.getOrDefault(calendar, calendar.words()), half.ending());
    }

    /** Read back, and the same; what stood there untouched since Ebb put it there gives way. */
    private void put(Item item, ResourceKey key, Half half) throws Unreachable, Amiss {
      var calendar = calendar(item, key, half);
      var at = calendar.below(key.path().last()).under(half.home(), false);
      var status = written(at, half.text(), "");
      if (status == 412) {
        var there = read(at, "");
        if (there.isPresent() && !isSame(there.get(), half)) {
          if (!CalendarPrint.isAsNoted(there.get().text())) {
            throw new Amiss(differs(item, name(key, half)));
          }
          status = written(at, half.text(), there.get().etag());
        }
      }
      if (status == 507) {
        throw new Unreachable(full(), null);
      }
      if (status != 412 && status >= 300) {
        throw new Amiss(refused(item, status));
      }
      if (read(at, "").filter(there -> isSame(there, half)).isEmpty()) {
        throw new Amiss(altered(item, name(key, half)));
      }
    }

    private boolean isSame(Found there, Half half) {
      return CalendarPrint.of(there.text()).equals(CalendarPrint.of(half.text()));
    }

    /** One at a time: a server may refuse two that make the same calendar at the same moment. */
    private synchronized DavPath calendar(Item item, ResourceKey key, Half half)
        throws Unreachable, Amiss {
      var path =
          DavPath.HOME.below(
              "%s, %s%s"
                  .formatted(route.place(), key.path().parent().words(), half.ending())
                  .replace('/', '-'));
      var at = path.under(half.home(), true);
      if (made.contains(at) || homes.isThere(at)) {
        made.add(at);
        return path;
      }
      var status = dav.makeCalendar(at, name(key, half));
      if (status == 507) {
        throw new Unreachable(full(), null);
      }
      if (status != 201) {
        throw new Amiss(
            homes.isThere(URI.create(half.home()))
                ? refused(item, status)
                : noCalendars(half.home()));
      }
      made.add(at);
      return path;
    }

    private Problem full() {
      return new Problem(
          "recipient-full",
          "%s has no room for more in their calendars.".formatted(route.to()),
          "The server takes nothing more (507).",
          "Give them more room, or name somebody else; then retry. What has arrived stays.",
          null);
    }
  }

  /**
   * @param etag empty if the server gives none
   */
  private record Found(String text, String etag) {}

  private Optional<Found> read(URI at, String etag) throws Unreachable {
    try (var content = new Content()) {
      var found = dav.get(at, etag, content);
      return found.isEmpty()
          ? Optional.empty()
          : Optional.of(
              new Found(
                  new String(content.read().readAllBytes(), StandardCharsets.UTF_8), found.get()));
    } catch (IOException e) {
      throw dav.unreachable(e);
    }
  }

  /**
   * @param over what is there; empty where nothing is to be there
   */
  private int written(URI at, String text, String over) throws Unreachable {
    try (var content = new Content()) {
      content.write(text.getBytes(StandardCharsets.UTF_8));
      return over.isEmpty() ? dav.put(at, content, TYPE) : dav.replace(at, over, content, TYPE);
    } catch (IOException e) {
      throw dav.unreachable(e);
    }
  }

  private static Problem tooLarge(Item item) {
    return new Problem(
        "item-too-large",
        "%s has %,d bytes.".formatted(item.name(), item.bytes()),
        "What is larger than %,d is not taken apart.".formatted(LARGEST),
        "Save it by other means, and leave it out with a reason.",
        null);
  }

  private static Problem differs(Item item, String where) {
    return new Problem(
        "item-differs-there",
        "%s is in %s already, and another there.".formatted(item.name(), where),
        "It was changed there, or here, after it was handed over.",
        "Look which of them is right. Delete the one there and retry, or leave this one out.",
        null);
  }

  private static Problem altered(Item item, String where) {
    return new Problem(
        "item-altered",
        "%s is another in %s than what was put there.".formatted(item.name(), where),
        "It was changed while it was copied, or the server keeps it otherwise.",
        "See it there. If all of it is there, leave this one out with that as the reason.",
        null);
  }

  private static Problem noCalendars(String home) {
    return new Problem(
        "recipient-without-calendars",
        "Nobody's calendars are at %s.".formatted(home),
        "The server makes them when their owner signs in there for the first time.",
        "Have them sign in once, or name somebody else; then retry.",
        null);
  }

  private static Problem refused(Item item, int status) {
    return new Problem(
        "item-refused",
        "%s is not taken.".formatted(item.name()),
        status == 409
            ? "The server has another of its name in that calendar (409)."
            : "The server answered %d.".formatted(status),
        "Save it by other means, and leave it out with a reason; or mend it there and retry.",
        null);
  }
}
