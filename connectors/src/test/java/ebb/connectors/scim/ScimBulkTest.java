package ebb.connectors.scim;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Secrets;
import ebb.core.application.Wire;
import ebb.core.application.Wire.Exchange;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Writes of the same moment go in one request, and each has an outcome of its own. */
public class ScimBulkTest {
  private static final int MANY = 20;

  private MailHouse house;
  private Connector connector;

  @BeforeMethod
  void open() throws Exception {
    house = new MailHouse(0, "token");
    house.manners().bulk(true).delay(Duration.ofMillis(30));
    connector = with(Map.of("address", house.scim(), "network", "internal"));
    connector.capabilities();
  }

  private static Connector with(Map<String, String> settings) {
    return ScimConnector.open("house", settings, Secrets.token("token"), MANY);
  }

  @AfterMethod
  void close() {
    connector.close();
    house.close();
  }

  @Test
  public void whatIsWrittenAtTheSameMomentGoesInFewRequests() throws Exception {
    var outcomes = apply(creates());

    assertThat(outcomes).allMatch(outcome -> outcome instanceof Outcome.Applied);
    assertThat(house.accounts().count()).isEqualTo(MANY);
    assertThat(house.writes()).hasSize(MANY).allMatch(write -> write.equals("POST /scim/v2/Users"));
    assertThat(house.requests("POST /scim/v2/Bulk")).isBetween(1, 5);
    assertThat(house.requests("POST /scim/v2/Users")).isLessThan(5);
  }

  @Test
  public void eachHasItsOwnOutcomeAndItsOwnNote() throws Exception {
    house.accounts().add("user-7");
    var notes = new ArrayList<List<Exchange>>();
    var work = new ArrayList<Callable<Outcome>>();
    for (var create : creates()) {
      var own = new ArrayList<Exchange>();
      notes.add(own);
      work.add(() -> Wire.noting(own, () -> connector.apply(create)));
    }

    var outcomes = all(work);

    for (int i = 0; i < MANY; i++) {
      assertThat(outcomes.get(i))
          .isInstanceOf(i == 7 ? Outcome.Refused.class : Outcome.Applied.class);
      assertThat(notes.get(i).getFirst().request())
          .startsWith("POST /Users")
          .contains("\"user-%d\"".formatted(i));
    }
  }

  @Test
  public void changesAndDeletionsGoTogetherToo() throws Exception {
    var ids = new ArrayList<String>();
    for (var outcome : apply(creates())) {
      ids.add(((Outcome.Applied) outcome).account().orElseThrow().id());
    }
    var instructions = new ArrayList<Instruction>();
    for (int i = 0; i < MANY; i++) {
      instructions.add(
          i % 2 == 0
              ? new Instruction.SetUsable(ids.get(i), false)
              : new Instruction.Delete(ids.get(i)));
    }

    var outcomes = apply(instructions);

    assertThat(outcomes).allMatch(outcome -> outcome instanceof Outcome.Applied);
    assertThat(house.accounts().count()).isEqualTo(MANY / 2);
    for (int i = 0; i < MANY; i += 2) {
      assertThat(connector.find(ids.get(i)).orElseThrow().usable()).isFalse();
    }
  }

  @DataProvider
  Object[][] faults() {
    return new Object[][] {
      {Kind.TOO_MANY, Outcome.RetryLater.class},
      {Kind.UNAVAILABLE, Outcome.RetryLater.class},
      {Kind.CUT_AFTER_WRITE, Outcome.Unknown.class},
      {Kind.TRUNCATED, Outcome.Unknown.class},
      {Kind.FAILS_AFTER_WRITE, Outcome.Unknown.class},
    };
  }

  @Test(dataProvider = "faults")
  public void whatBefallsTheRequestBefallsEachOfThem(Kind fault, Class<?> expected)
      throws Exception {
    house.faults().order(fault, "POST /scim/v2/Bulk", 1);

    var outcomes = apply(creates());

    assertThat(outcomes).filteredOn(expected::isInstance).hasSizeGreaterThan(1);
    assertThat(outcomes)
        .allMatch(outcome -> expected.isInstance(outcome) || outcome instanceof Outcome.Applied);
    assertThat(house.journal())
        .extracting(write -> write.sent().path("externalId").asText())
        .doesNotHaveDuplicates();
  }

  @Test
  public void whoeverSaysItTakesSeveralAndDoesNotGetsEachByItself() throws Exception {
    house.manners().bulk(false);

    var outcomes = apply(creates());

    assertThat(outcomes).allMatch(outcome -> outcome instanceof Outcome.Applied);
    assertThat(house.requests("POST /scim/v2/Bulk")).isEqualTo(1);
  }

  @Test
  public void whereItIsSwitchedOffEachGoesByItself() throws Exception {
    try (var each =
        with(Map.of("address", house.scim(), "network", "internal", "together", "no"))) {
      all(creates().stream().<Callable<Outcome>>map(one -> () -> each.apply(one)).toList());
    }

    assertThat(house.requests("POST /scim/v2/Bulk")).isZero();
    assertThat(house.accounts().count()).isEqualTo(MANY);
  }

  private List<Instruction> creates() {
    return IntStream.range(0, MANY).<Instruction>mapToObj(ScimBulkTest::create).toList();
  }

  private static Instruction create(int number) {
    var values = new TreeMap<String, List<String>>();
    values.put("userName", List.of("user-" + number));
    return new Instruction.Create("ebb-" + number, true, values);
  }

  private List<Outcome> apply(List<Instruction> instructions) throws Exception {
    return all(
        instructions.stream().<Callable<Outcome>>map(one -> () -> connector.apply(one)).toList());
  }

  private static List<Outcome> all(List<Callable<Outcome>> work) throws Exception {
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      var outcomes = new ArrayList<Outcome>();
      for (Future<Outcome> one : threads.invokeAll(work)) {
        outcomes.add(one.get());
      }
      return outcomes;
    }
  }
}
