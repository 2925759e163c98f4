package ebb.service.changes;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.change.Change;
import ebb.core.change.ChangeState;
import ebb.core.execution.Claim;
import ebb.core.execution.Result;
import ebb.core.problem.Problem;
import ebb.service.InProcess;
import ebb.store.Database;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/**
 * The queue as workers meet it, with no worker running: each claim and each record is made here.
 */
public class StoreQueueTest {
  private static final String HOUSE = "mail-house";
  private static final Duration LEASE = Duration.ofMinutes(2);
  private static final Problem REFUSED =
      new Problem("refused", "It was refused.", "A trial.", "Wait.", null);

  private StoreQueue queue;
  private Releases releases;
  private Changes changes;
  private ChangeSets changeSets;
  private Database database;
  private int round;

  @BeforeClass
  void begin() throws Exception {
    queue = InProcess.bean(StoreQueue.class);
    releases = InProcess.bean(Releases.class);
    changes = InProcess.bean(Changes.class);
    changeSets = InProcess.bean(ChangeSets.class);
    database = InProcess.bean(Database.class);
    var columns =
        """
        {"rank": 60, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Kind": "userType", "Job": "title"}}
        """;
    var file = Files.writeString(InProcess.stage().home().resolve("queue.json"), columns);
    InProcess.client().done("sources", "put", "queue", file.toString());
  }

  /** What others left in the queue is not to be claimed here, nor what is left here by others. */
  @BeforeMethod
  @AfterMethod(alwaysRun = true)
  void emptied() {
    var later = Instant.now().plus(Duration.ofDays(1));
    for (var application : List.of(HOUSE, "directory")) {
      for (var claims = claim(application, 500, later);
          !claims.isEmpty();
          claims = claim(application, 500, later)) {
        queue.record(claims.stream().map(one -> refused(one.change())).toList(), later);
      }
    }
  }

  private List<Claim> claim(String application, int most, Instant at) {
    return queue.claim(application, false, most, at, at.plus(LEASE));
  }

  /** Releases newcomers, whose accounts nobody makes. */
  private long released(int people) throws Exception {
    round++;
    var text = new StringBuilder("No,Family,Given,Kind,Job\n");
    for (int i = 0; i < people; i++) {
      text.append(
          "Q%d-%d,%s,%s,employee,Mate\n"
              .formatted(round, i, name(round * 1_000 + i), name(-round * 1_000 - i)));
    }
    var file = Files.writeString(InProcess.stage().home().resolve("queue.csv"), text);
    var set =
        InProcess.client()
            .json("imports", "add", file.toString(), "--source=queue")
            .path("changeSet")
            .asString();
    InProcess.client().done("changes", "release", set, "--no-wait", "--reason=a trial");
    return Long.parseLong(set);
  }

  private static String name(int number) {
    var random = new java.util.Random(number);
    var letters = new StringBuilder("Q");
    for (int i = 0; i < 9; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private static Result refused(Change change) {
    return new Result(change.over(ChangeState.REFUSED, Instant.now(), REFUSED), Optional.empty());
  }

  private Map<ChangeState, Long> inHouse(long set) {
    var states = new TreeMap<ChangeState, Long>();
    for (var count : database.read(session -> changes.counts(session, set))) {
      if (count.application().equals(HOUSE)) {
        states.merge(count.state(), count.count(), Long::sum);
      }
    }
    return states;
  }

  @Test
  public void nothingIsClaimedForAnApplicationFromTheMomentItIsPaused() throws Exception {
    released(2);
    InProcess.client().done("applications", "pause", HOUSE, "--why=a trial");
    try {
      assertThat(claim(HOUSE, 4, Instant.now())).isEmpty();
      InProcess.client().done("applications", "go-on", HOUSE);
      InProcess.client().done("execution", "stop", "--why=a trial");
      assertThat(claim(HOUSE, 4, Instant.now())).as("all work is stopped").isEmpty();
    } finally {
      InProcess.client().done("applications", "go-on", HOUSE);
      InProcess.client().done("execution", "go-on");
    }
    assertThat(claim(HOUSE, 4, Instant.now())).hasSize(2);
  }

  @Test
  public void whatIsClaimedIsGivenToNobodyElseUntilItsLeaseEnds() throws Exception {
    released(6);
    var now = Instant.now();

    var first = claim(HOUSE, 4, now);
    var second = claim(HOUSE, 4, now);
    var ids = new ArrayList<Long>();
    first.forEach(one -> ids.add(one.change().id()));
    second.forEach(one -> ids.add(one.change().id()));

    assertThat(first).hasSize(4);
    assertThat(second).hasSize(2);
    assertThat(ids).doesNotHaveDuplicates();
    assertThat(claim(HOUSE, 4, now)).isEmpty();
  }

  @Test
  public void whoseLeaseEndedIsLookedUpBeforeItIsSentAgain() throws Exception {
    released(3);
    var now = Instant.now();
    assertThat(claim(HOUSE, 10, now))
        .hasSize(3)
        .allSatisfy(one -> assertThat(((Claim.Wanted) one).looksFirst()).isFalse());

    var again = claim(HOUSE, 10, now.plus(LEASE).plusSeconds(1));

    assertThat(again)
        .as("a worker may have died after it was sent")
        .hasSize(3)
        .allSatisfy(one -> assertThat(((Claim.Wanted) one).looksFirst()).isTrue());
  }

  @Test
  public void whatIsNotWantedAnyMoreIsNotSent() throws Exception {
    released(1);
    var person =
        InProcess.client()
            .json("people", "list", "--filter=name.familyName eq \"" + name(round * 1_000) + "\"");
    var id = person.path("items").valueStream().toList().getLast().path("id").asString();
    // The rule of the house leaves contractors out.
    InProcess.released("people", "edit", id, "userType=contractor");

    var claims =
        claim(HOUSE, 50, Instant.now()).stream()
            .filter(one -> one.change().person().toString().equals(id))
            .toList();

    assertThat(claims).isNotEmpty().allMatch(Claim.Overtaken.class::isInstance);
  }

  @Test
  public void aRunOfWhichTooMuchIsRefusedIsHaltedAndResumesWhenItIsLetTo() throws Exception {
    var set = released(40);
    var now = Instant.now();
    var some = claim(HOUSE, 12, now);
    assertThat(some).hasSize(12);

    queue.record(some.stream().limit(9).map(one -> refused(one.change())).toList(), now);
    assertThat(inHouse(set)).as("nine are a few").doesNotContainKey(ChangeState.HALTED);
    queue.record(some.stream().skip(9).map(one -> refused(one.change())).toList(), now);

    assertThat(inHouse(set))
        .containsEntry(ChangeState.REFUSED, 12L)
        .containsEntry(ChangeState.HALTED, 28L)
        .doesNotContainKey(ChangeState.QUEUED);
    assertThat(claim(HOUSE, 50, now)).as("nothing is claimed of it").isEmpty();
    assertThat(claim("directory", 5, now)).as("in no application").isEmpty();

    releases.goOn(set, "ada");
    assertThat(inHouse(set)).containsEntry(ChangeState.QUEUED, 28L);
    long passed = database.read(session -> changeSets.failuresLet(session, set));
    assertThat(passed).isEqualTo(12);
    var next = claim(HOUSE, 9, now);
    queue.record(next.stream().map(one -> refused(one.change())).toList(), now);
    assertThat(inHouse(set))
        .as("what was refused before counts no more against it")
        .doesNotContainKey(ChangeState.HALTED);
  }

  @Test
  public void whatIsRecordedTwiceIsRecordedOnce() throws Exception {
    var set = released(2);
    var now = Instant.now();
    var claimed = claim(HOUSE, 2, now);
    var results = claimed.stream().map(one -> refused(one.change())).toList();

    queue.record(results, now);
    assertThat(inHouse(set)).isEqualTo(Map.of(ChangeState.REFUSED, 2L));
    try {
      queue.record(results, now);
    } catch (RuntimeException _) {
      // Somebody else recorded it: whether it is said or passed over, nothing may change.
    }
    assertThat(inHouse(set)).isEqualTo(Map.of(ChangeState.REFUSED, 2L));
  }
}
