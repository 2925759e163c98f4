package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import ebb.core.Chance;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What the console computes by itself, tried in a browser without its pages. */
public class ConsoleLogicTest {
  private static final Path LOGIC = Path.of("../console/target/logic/logic.js");

  /** Far west, so that a day mistaken for an instant would be the day before. */
  private static final String ZONE = "America/Los_Angeles";

  private Page page;

  @BeforeClass
  void open() {
    page = Chromium.shared().alone(ZONE);
    page.addScriptTag(new Page.AddScriptTagOptions().setPath(LOGIC));
  }

  @AfterClass(alwaysRun = true)
  void close() {
    if (page != null) {
      page.context().close();
    }
  }

  private Object of(String expression, Object... arguments) {
    return page.evaluate("given => (%s)(...given)".formatted(expression), List.of(arguments));
  }

  @Test
  public void aDayIsThatDayWhereverItIsRead() {
    assertThat(of("logic.words.day", "2027-03-01")).isEqualTo("1 Mar 2027");
    assertThat(of("logic.words.day", "")).isEqualTo("");
    assertThat(of("logic.words.dayAfter", "2028-02-28")).isEqualTo("2028-02-29");
    assertThat(of("logic.words.dayAfter", "2026-12-31")).isEqualTo("2027-01-01");
    assertThat(of("logic.words.dayAfter", "2027-03-14"))
        .as("an hour is lost there on that day")
        .isEqualTo("2027-03-15");
    assertThat(of("logic.words.sentence", "From 2027-03-01 to 2027-03-02, not 12027-03-011."))
        .isEqualTo("From 1~Mar~2027 to 2~Mar~2027, not 12027-03-011.".replace('~', '\u00a0'));
  }

  @Test
  public void anInstantIsSaidInTheReadersZoneWhichIsNamed() {
    assertThat(of("logic.words.exact", "2027-01-01T03:30:00Z"))
        .isEqualTo("31 Dec 2026, 19:30 " + ZONE);
  }

  @DataProvider
  Object[][] distances() {
    return new Object[][] {
      {Duration.ofSeconds(0), "just now"},
      {Duration.ofSeconds(-59), "just now"},
      {Duration.ofSeconds(59), "in a moment"},
      {Duration.ofSeconds(-60), "1 minute ago"},
      {Duration.ofMinutes(-59), "59 minutes ago"},
      {Duration.ofMinutes(61), "in 1 hour"},
      {Duration.ofHours(-24), "yesterday"},
      {Duration.ofDays(3), "in 3 days"},
      {Duration.ofDays(-31), "last month"},
      {Duration.ofDays(-800), "2 years ago"},
    };
  }

  @Test(dataProvider = "distances")
  public void howLongAgoIsSaidInTheLargestUnitThatFits(Duration from, String said) {
    var now = Instant.parse("2027-03-01T12:00:00Z");
    assertThat(
            of(
                "(at, now) => logic.words.relative(at, new Date(now))",
                now.plus(from).toString(),
                now.toString()))
        .isEqualTo(said);
  }

  @Test
  public void numbersAndSizesAreWrittenAsPeopleReadThem() {
    assertThat(of("logic.words.count", 1, "person", "people")).isEqualTo("1 person");
    assertThat(of("logic.words.count", 0, "person", "people")).isEqualTo("0 people");
    assertThat(of("logic.words.count", 12_345, "person", "people")).isEqualTo("12,345 people");
    assertThat(of("logic.words.bytes", 999)).isEqualTo("999 B");
    assertThat(of("logic.words.bytes", 1_000)).isEqualTo("1.0 kB");
    assertThat(of("logic.words.bytes", 5.5e15)).isEqualTo("5500.0 TB");
    assertThat(of("logic.words.money", Map.of("amount", 12.5, "currency", "EUR"), 3))
        .isEqualTo("37.50 EUR");
    assertThat(of("logic.words.attribute", "berth")).as("one's own").isEqualTo("berth");
  }

  @Test
  public void aPlaceIsWhereItIsWhateverItsName() {
    assertThat(of("logic.placeOf", "unit", "Deck & Engine/2"))
        .isEqualTo("/who?unit=Deck%20%26%20Engine%2F2");
    assertThat(of("logic.placeOf", "departure", 7)).isEqualTo("/ahead/departures/7");
    assertThat(of("logic.placeOf", "whatever else", "x")).isEqualTo("/now");
  }

  @Test
  public void aTideLineKeepsTheOrderOfTimeAndItsShores() {
    var random = Chance.random(17);
    int compared = 0;
    for (int i = 0; i < 50; i++) {
      var now = Instant.ofEpochSecond(1_800_000_000L + random.nextInt(100_000_000));
      var from = now.minusSeconds(1 + random.nextInt(300_000_000));
      var until = now.plusSeconds(1 + random.nextInt(30_000_000));
      var instants = new ArrayList<Instant>(List.of(from, now, until));
      for (int k = 0; k < 10; k++) {
        instants.add(
            from.plusSeconds(random.nextLong(Duration.between(from, until).toSeconds() + 1)));
      }
      instants.sort(null);
      var places = places(from, now, until, instants);
      assertThat(places).as("in their order").isSorted();
      assertThat(places.getFirst()).isEqualTo(116);
      assertThat(places.getLast()).isEqualTo(892);
      assertThat(places.get(instants.indexOf(now))).isEqualTo(470);
      compared += places.size();
    }
    assertThat(compared).isEqualTo(50 * 13);
  }

  private List<Double> places(Instant from, Instant now, Instant until, List<Instant> instants) {
    var found =
        of(
            "(time, all) => all.map(at => logic.along(time, at, {left: 116, now: 470, right: 892}))",
            Map.of("from", from.toString(), "now", now.toString(), "until", until.toString()),
            instants.stream().map(Instant::toString).toList());
    return ((List<?>) found).stream().map(one -> ((Number) one).doubleValue()).toList();
  }

  @Test
  public void whoIsChosenStaysChosenHoweverTheListIsFiltered() {
    assertThat(
            of(
                """
                () => {
                  logic.setActivePinia(logic.createPinia())
                  const chosen = logic.useSelection()
                  chosen.toggle(1, 'Ida'); chosen.toggle(2, 'Per'); chosen.toggle(1, 'Ida')
                  chosen.add(2, 'Per'); chosen.add(3, 'Eva'); chosen.remove(9)
                  const names = [...chosen.people.values()].join(', ')
                  const size = chosen.size
                  chosen.clear()
                  return `${size}: ${names}; ${chosen.size}`
                }"""))
        .isEqualTo("2: Per, Eva; 0");
  }

  @Test
  public void aSetIsUnderWayWhileAnyOfItMoves() {
    var is =
        "(state, ...states) => logic.isUnderWay({state, counts: states.map(state => ({state}))})";
    assertThat(of(is, "releasing")).isEqualTo(true);
    assertThat(of(is, "released", "seen", "unsure")).isEqualTo(true);
    assertThat(of(is, "released", "seen", "refused", "halted")).isEqualTo(false);
  }

  /** Three pages of two; what is read is noted, and answered when it is let go. */
  private static final String LIST =
      """
      const asked = [], waiting = []
      const read = (cursor, signal) => new Promise((answer, fail) => {
        asked.push(cursor)
        const from = Number(cursor ?? 0)
        waiting.push((mark = '') => answer({
          items: [from, from + 1].map(n => mark + n), next: from < 4 ? String(from + 2) : null, total: 6 }))
        signal.addEventListener('abort', () => fail(new DOMException('', 'AbortError')))
      })
      const settled = () => new Promise(done => setTimeout(done))
      const on = logic.ref(1)
      const scope = logic.effectScope()
      const list = scope.run(() => logic.usePages(read, [on]))
      """;

  @Test
  public void aListIsReadPageAfterPageAndReadAgainAsFarAsItWasShown() {
    assertThat(
            of(
                """
                async () => { %s
                  waiting.shift()(); await settled()
                  const more = list.more(); waiting.shift()(); await more
                  const both = list.more(); list.more(); waiting.shift()(); await both
                  const whole = list.items.value.join('') + list.hasMore.value
                  await list.more()
                  const again = list.reload()
                  for (let i = 0; i < 3; i++) { waiting.shift()('*'); await settled() }
                  await again
                  scope.stop()
                  return [whole, list.items.value.join(''), asked.join()].join(' ')
                }"""
                    .formatted(LIST)))
        .isEqualTo("012345false *0*1*2*3*4*5 ,2,4,,2,4");
  }

  @Test
  public void theAnswerToWhatIsNotAskedAnyMoreIsNotShown() {
    assertThat(
            of(
                """
                async () => { %s
                  on.value = 2; await settled()
                  const [first, second] = waiting
                  second('new'); await settled()
                  first('old'); await settled()
                  scope.stop()
                  return list.items.value.join() + list.isLoading.value
                }"""
                    .formatted(LIST)))
        .isEqualTo("new0,new1false");
  }
}
