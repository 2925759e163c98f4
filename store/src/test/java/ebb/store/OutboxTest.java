package ebb.store;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.notice.Ask;
import ebb.core.notice.Notice;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.notices.Notices;
import java.time.Instant;
import java.util.List;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class OutboxTest {
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final Instant LATER = NOW.plusSeconds(120);
  private static final PersonId IDA = new PersonId(1);

  private final Notices notices = new Notices();
  private Database database;

  @BeforeMethod
  void open() {
    database = TestDatabase.inMemory();
  }

  @AfterMethod
  void close() {
    database.close();
  }

  @Test
  public void aNoticeIsClaimedOnceUntilItsLeaseEnds() {
    add("ida@post.example");

    assertThat(claim(NOW)).hasSize(1);
    assertThat(claim(NOW)).isEmpty();
    assertThat(claim(LATER.plusSeconds(1))).hasSize(1);
  }

  @Test
  public void whatWasSentIsNeverClaimedAgain() {
    add("ida@post.example");
    var notice = claim(NOW).getFirst();
    database.writeAll(session -> notices.sent(session, notice.id(), NOW));

    assertThat(claim(LATER.plusSeconds(1))).isEmpty();
    var kept = list().getFirst();
    assertThat(kept.state()).isEqualTo(Notice.State.SENT);
    assertThat(kept.sentAt()).isEqualTo(NOW);
  }

  @Test
  public void whatWasNotTakenComesBackWithTheReason() {
    add("ida@post.example");
    var notice = claim(NOW).getFirst();
    var why = new Problem("mail-not-sent", "Not taken.", "why", "remedy", null);
    database.writeAll(session -> notices.failed(session, notice.id(), why, NOW.plusSeconds(5)));

    assertThat(claim(NOW)).isEmpty();
    assertThat(claim(NOW.plusSeconds(5)))
        .singleElement()
        .satisfies(
            again -> {
              assertThat(again.attempts()).isEqualTo(1);
              assertThat(again.problem()).isEqualTo(why);
            });
  }

  @Test
  public void leasesOfTheDeadEndAtOnce() {
    add("ida@post.example");
    claim(NOW);

    database.writeAll(notices::endLeases);

    assertThat(claim(NOW)).hasSize(1);
  }

  @Test
  public void somebodyWithoutAnAddressIsKeptAndNeverClaimed() {
    add(null);

    assertThat(claim(NOW)).isEmpty();
    assertThat(list().getFirst().state()).isEqualTo(Notice.State.UNDELIVERABLE);
  }

  @Test
  public void anAskOpensOnceAndEndsTheOneBefore() {
    open("first");
    open("second");

    assertThat(ask("first").isOpenAt(NOW)).isFalse();
    assertThat(ask("second").isOpenAt(NOW)).isTrue();
    assertThat(use("second")).isTrue();
    assertThat(use("second")).isFalse();
    assertThat(ask("second").isOpenAt(NOW)).isFalse();
    database.writeAll(session -> notices.reopen(session, "second"));
    assertThat(ask("second").isOpenAt(NOW)).isTrue();
  }

  @Test
  public void whoeverGuessesIsShutOut() {
    open("guessed");
    for (int i = 0; i < Ask.MOST_TRIES; i++) {
      assertThat(ask("guessed").isOpenAt(NOW)).isTrue();
      database.writeAll(session -> notices.countTry(session, "guessed"));
    }

    assertThat(ask("guessed").isOpenAt(NOW)).isFalse();
  }

  private void add(String recipient) {
    database.writeAll(
        session ->
            notices.add(
                session,
                IDA,
                Notice.Kind.WELCOME,
                recipient,
                "Your accounts are ready",
                null,
                NOW));
  }

  private List<Notice> claim(Instant now) {
    return database.write(session -> notices.claim(session, now, now.plusSeconds(120), 10));
  }

  private List<Notice> list() {
    return database.read(session -> notices.list(session, IDA, Reach.EVERYBODY, null, 10)).items();
  }

  private void open(String hash) {
    var ask = new Ask(hash, 1, IDA, Notice.Kind.RESET, LATER, null, 0);
    database.writeAll(session -> notices.open(session, ask));
  }

  private Ask ask(String hash) {
    return database.read(session -> notices.ask(session, hash)).orElseThrow();
  }

  private boolean use(String hash) {
    return database.write(session -> notices.use(session, hash, NOW));
  }
}
