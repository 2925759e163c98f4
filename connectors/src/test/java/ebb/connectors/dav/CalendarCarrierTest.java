package ebb.connectors.dav;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import ebb.connectors.carry.Content;
import ebb.connectors.http.Credentials;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.Network;
import ebb.connectors.http.Tls;
import ebb.core.Chance;
import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.Carried;
import ebb.core.application.Carrier.NotCarried;
import ebb.core.application.Carrier.Route;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.standins.Radicale;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.apache.hc.core5.http.ContentType;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class CalendarCarrierTest {
  private static final ZonedDateTime DAY =
      ZonedDateTime.parse("2026-12-01T00:00+01:00[Europe/Oslo]");
  private static final ContentType TYPE = ContentType.create("text/calendar");
  private static final String PAST = "DTSTART:20261110T090000Z";
  private static final String COMING = "DTSTART:20261210T090000Z";
  private static final String WEEKLY = "DTSTART:20261103T090000Z\nRRULE:FREQ=WEEKLY;COUNT=8";

  private Radicale radicale;
  private Dav dav;

  @BeforeClass
  void open() throws Exception {
    radicale = Radicale.start();
    dav = dav(Radicale.PASSWORD);
  }

  @AfterClass(alwaysRun = true)
  void close() throws Exception {
    dav.close();
    radicale.close();
  }

  @Test
  public void whatIsToComeIsTheRecipientsToCallAndWhatIsPastLiesApart() throws Exception {
    calendar("ada", "work", "Quay & Øst");
    calendar("ada", "own", "Own");
    home("bea");
    put("ada", "work/past.ics", event("past", PAST));
    put("ada", "work/coming.ics", event("coming", COMING + called("ada")));
    put("ada", "work/weekly.ics", event("weekly", WEEKLY + called("ada")));
    put("ada", "own/a b ø.ics", event("own", COMING));
    put("ada", "own/task.ics", event("task", "").replace("VEVENT", "VTODO"));
    put("ada", "own/odd.ics", event("odd", COMING + "\nSEQUENCE:one"));

    var items = items("ada");
    var carried = carry("ada", "bea", items, _ -> true);

    assertThat(items)
        .extracting(Item::kind, Item::name)
        .contains(
            tuple("tasks", "Own, entry task.ics"),
            tuple("calendar", "Quay & Øst, entry weekly.ics"));
    assertThat(carried).hasSize(6).allMatch(Arrived.class::isInstance);
    assertThat(names("bea"))
        .containsExactlyInAnyOrder(
            "From Ada, Quay & Øst, entry coming.ics",
            "From Ada, Quay & Øst, entry weekly.ics",
            "From Ada, Quay & Øst, past, entry weekly.ics",
            "From Ada, Quay & Øst, past, entry past.ics",
            "From Ada, Own, entry a b ø.ics",
            "From Ada, Own, entry task.ics",
            "From Ada, Own, entry odd.ics");
    assertThat(text("bea", "From Ada, work/weekly.ics"))
        .contains("ORGANIZER:mailto:bea@skerrow.example", "COUNT=4", "DTSTART:20261201T090000Z");
    assertThat(where(carried, "weekly"))
        .isEqualTo("From Ada, Quay & Øst, past; From Ada, Quay & Øst");
    assertThat(where(carried, "odd")).isEqualTo("From Ada, Own, as it was: it cannot be read");
    assertThat(items("ada")).isEqualTo(items);
  }

  @Test
  public void whatIsPastGoesToWhoeverKeepsIt() throws Exception {
    calendar("cleo", "work", "Work");
    home("dora");
    home("archive");
    put("cleo", "work/past.ics", event("past", PAST));
    put("cleo", "work/weekly.ics", event("weekly", WEEKLY));

    carrier(dav, Optional.of("archive"))
        .carry(new Route("cleo", "dora", "From Cleo", DAY), items("cleo"), _ -> true);

    assertThat(names("dora")).containsExactly("From Cleo, Work, entry weekly.ics");
    assertThat(names("archive"))
        .containsExactlyInAnyOrder(
            "From Cleo, Work, past, entry past.ics", "From Cleo, Work, past, entry weekly.ics");
  }

  /** Broken off at random, over and over: in the end everything is there, and once. */
  @Test
  public void nothingArrivesTwiceHoweverOftenItIsBrokenOff() throws Exception {
    calendar("emil", "work", "Work");
    home("finn");
    for (int i = 0; i < 30; i++) {
      put(
          "emil",
          "work/%d.ics".formatted(i),
          event("e" + i, List.of(PAST, COMING, WEEKLY).get(i % 3)));
    }
    var items = items("emil");
    var random = Chance.random(11);
    var done = new HashSet<String>();
    int forgotten = 0;
    while (done.size() < items.size()) {
      var left = items.stream().filter(item -> !done.contains(item.id())).toList();
      var stop = 1 + random.nextInt(9);
      var told = new ArrayList<Carried>();
      carry(
          "emil",
          "finn",
          left,
          one -> {
            told.add(one);
            return told.size() < stop;
          });
      var unnoted = Math.min(told.size(), random.nextInt(3));
      forgotten += unnoted;
      told.stream().skip(unnoted).map(Carried::item).forEach(done::add);
    }
    assertThat(forgotten).as("carried again").isPositive();

    assertThat(names("finn")).hasSize(40).doesNotHaveDuplicates();
  }

  @Test
  public void whatChangesAfterwardsReplacesWhatNobodyTouchedThere() throws Exception {
    calendar("gil", "work", "Work");
    home("hugo");
    put("gil", "work/meeting.ics", event("m", COMING + called("gil")));
    var before = items("gil");
    carry("gil", "hugo", before, _ -> true);
    replace("gil", "work/meeting.ics", event("m", COMING + called("gil") + "\nSUMMARY:moved"));

    assertThat(carry("gil", "hugo", before, _ -> true))
        .allSatisfy(one -> assertThat(((NotCarried) one).problem().code()).isEqualTo("item-gone"));
    carry("gil", "hugo", items("gil"), _ -> true);

    assertThat(text("hugo", "From Ada, work/meeting.ics")).contains("SUMMARY:moved");
  }

  @Test
  public void whatTheRecipientChangedIsNotWrittenOver() throws Exception {
    calendar("ida", "work", "Work");
    home("jon");
    put("ida", "work/meeting.ics", event("m", COMING + called("ida")));
    carry("ida", "jon", items("ida"), _ -> true);
    replace("jon", "From Ada, work/meeting.ics", event("m", COMING + "\nSUMMARY:jon's"));

    assertThat(carry("ida", "jon", items("ida"), _ -> true))
        .allSatisfy(
            one -> assertThat(((NotCarried) one).problem().code()).isEqualTo("item-differs-there"));
    assertThat(text("jon", "From Ada, work/meeting.ics")).contains("SUMMARY:jon's");
  }

  @Test
  public void aRecipientWithoutCalendarsIsSaidToBe() throws Exception {
    calendar("kim", "work", "Work");
    put("kim", "work/meeting.ics", event("m", COMING));

    assertThat(carry("kim", "never-signed-in", items("kim"), _ -> true))
        .allSatisfy(
            one ->
                assertThat(((NotCarried) one).problem().code())
                    .isEqualTo("recipient-without-calendars"));
  }

  @Test
  public void aServerThatDoesNotLetEbbInOrIsAwayIsNamed() throws Exception {
    try (var wrong = dav("wrong")) {
      assertThat(code(wrong, "ada")).isEqualTo("calendars-not-allowed");
    }
    calendar("lea", "work", "Work");
    radicale.shut("lea");
    assertThat(code(dav, "lea")).isEqualTo("calendars-not-allowed");
    try (var other = Radicale.start();
        var gone = new Dav(line(other.address(), Radicale.PASSWORD), "calendars")) {
      other.stop();
      assertThat(code(gone, "ada")).isEqualTo("calendars-no-answer");
    }
    assertThat(items("nobody-ever")).isEmpty();
  }

  private static String code(Dav over, String login) {
    var problem = new ArrayList<String>();
    assertThatThrownBy(() -> carrier(over, Optional.empty()).items(login, _ -> {}))
        .isInstanceOfSatisfying(Unreachable.class, e -> problem.add(e.problem().code()));
    return problem.getFirst();
  }

  private static String called(String login) {
    return "\nORGANIZER:mailto:%s@skerrow.example".formatted(login);
  }

  private static String event(String uid, String lines) {
    return CalendarObjectTest.calendar(CalendarObjectTest.event(uid, lines));
  }

  private static String where(List<Carried> carried, String name) {
    return carried.stream()
        .map(Arrived.class::cast)
        .filter(one -> one.there().startsWith(name))
        .findFirst()
        .orElseThrow()
        .where();
  }

  private List<String> names(String login) throws Unreachable {
    return items(login).stream().map(Item::name).toList();
  }

  private List<Item> items(String login) throws Unreachable {
    var items = new ArrayList<Item>();
    carrier(dav, Optional.empty()).items(login, items::add);
    return items;
  }

  private List<Carried> carry(String from, String to, List<Item> items, Predicate<Carried> each)
      throws Unreachable {
    var carried = new ArrayList<Carried>();
    carrier(dav, Optional.empty())
        .carry(
            new Route(from, to, "From Ada", DAY),
            items,
            one -> {
              carried.add(one);
              return each.test(one);
            });
    return carried;
  }

  private static CalendarCarrier carrier(Dav over, Optional<String> pastWith) {
    return new CalendarCarrier(
        new Homes(over, "calendars", over.place() + "/{login}/", login -> login),
        login -> login + "@skerrow.example",
        pastWith,
        false);
  }

  private void home(String login) throws Unreachable {
    dav.makeCollection(at(login, ""));
  }

  private void calendar(String login, String path, String name) throws Unreachable {
    home(login);
    assertThat(dav.makeCalendar(at(login, path + "/"), name)).isEqualTo(201);
  }

  private void put(String login, String path, String text) throws Exception {
    try (var content = new Content()) {
      content.write(text.getBytes(StandardCharsets.UTF_8));
      assertThat(dav.put(at(login, path), content, TYPE)).isEqualTo(201);
    }
  }

  private void replace(String login, String path, String text) throws Exception {
    try (var content = new Content()) {
      content.write(text.getBytes(StandardCharsets.UTF_8));
      var etag = dav.get(at(login, path), "", new ByteArrayOutputStream()).orElseThrow();
      assertThat(dav.replace(at(login, path), etag, content, TYPE)).isEqualTo(201);
    }
  }

  private String text(String login, String path) throws Unreachable {
    var out = new ByteArrayOutputStream();
    assertThat(dav.get(at(login, path), "", out)).isPresent();
    return out.toString(StandardCharsets.UTF_8);
  }

  private URI at(String login, String path) {
    return DavPath.HOME
        .below(login)
        .below(DavPath.of(path.replace(" ", "%20").replace("ø", "%C3%B8")))
        .under(radicale.address(), path.isEmpty() || path.endsWith("/"));
  }

  private Dav dav(String password) {
    return new Dav(line(radicale.address(), password), "calendars");
  }

  private static JsonHttp.Line line(String address, String password) {
    return new JsonHttp.Line(
        "house",
        address.replaceAll("/+$", ""),
        new Credentials.Basic(Radicale.USER, new Secret(password)),
        Tls.USUAL,
        Network.INTERNAL,
        8,
        Duration.ofSeconds(20));
  }
}
