package ebb.service.notices;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.notice.Notice;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.service.InProcess;
import ebb.standins.PostBox.Letter;
import ebb.store.Database;
import ebb.store.notices.Notices;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Letters, from the row that is written with a change until the mail server has them. */
public class OutboxTest {
  private static final Pattern LINK = Pattern.compile("/ask/(\\S+)");

  private Outbox outbox;
  private Notices notices;
  private Database database;
  private PersonId person;

  @BeforeClass
  void begin() {
    outbox = InProcess.bean(Outbox.class);
    notices = InProcess.bean(Notices.class);
    database = InProcess.bean(Database.class);
    InProcess.client()
        .done(
            "people",
            "add",
            "name.givenName=Ida",
            "name.familyName=Postbridge",
            "userType=employee",
            "startDate=2099-01-01",
            "--release");
    person =
        new PersonId(
            InProcess.client()
                .json("people", "list", "--filter=name.familyName eq \"Postbridge\"")
                .at("/items/0/id")
                .asLong());
    outbox.send();
  }

  /** Writes a notice, and gives the address it goes to, which is nobody else's. */
  private String write(Notice.Kind kind) {
    var address = UUID.randomUUID() + "@post.example";
    database.write(
        session -> {
          notices.add(session, person, kind, address, "About " + address, "/who", Instant.now());
          return null;
        });
    return address;
  }

  private static List<Letter> letters(String address) {
    return InProcess.stage().postBox().lettersTo(address);
  }

  private Notice notice(String address) {
    return database.read(
        session ->
            notices.list(session, person, Reach.EVERYBODY, null, 500).items().stream()
                .filter(one -> one.subject().equals("About " + address))
                .findFirst()
                .orElseThrow());
  }

  @Test
  public void aLetterIsSentOnceHoweverOftenTheOutboxLooks() {
    var address = write(Notice.Kind.DONE);

    for (int i = 0; i < 3; i++) {
      outbox.send();
    }

    assertThat(letters(address)).hasSize(1);
    assertThat(notice(address).state()).isEqualTo(Notice.State.SENT);
    assertThat(notice(address).sentAt()).isNotNull();
  }

  @Test
  public void manyLettersGoOutInOneLookAndEachToItsOwnReader() {
    var addresses =
        java.util.stream.IntStream.range(0, 40).mapToObj(_ -> write(Notice.Kind.DONE)).toList();

    outbox.send();

    assertThat(addresses)
        .allSatisfy(
            address ->
                assertThat(letters(address))
                    .singleElement()
                    .extracting(Letter::subject)
                    .isEqualTo("About " + address));
  }

  @Test
  public void aLinkIsMadeWithItsLetterAndOnlyItsHashIsKept() {
    var address = write(Notice.Kind.WELCOME);
    outbox.send();

    var link = LINK.matcher(letters(address).getFirst().text());
    assertThat(link.find()).isTrue();
    var token = link.group(1);
    var asItIs = database.read(session -> notices.ask(session, token));
    assertThat(asItIs).isEmpty();
    var ask = database.read(session -> notices.ask(session, ebb.store.SecretBox.hash(token)));
    assertThat(ask).get().extracting(one -> one.person()).isEqualTo(person);
  }

  @Test
  public void whatTheMailServerDoesNotTakeWaitsLongerEachTimeAndGoesOutOnce() {
    var address = write(Notice.Kind.DONE);
    var before = Instant.now();
    database.write(
        session -> {
          var claimed = notices.claim(session, before, before.plusSeconds(60), 50);
          assertThat(claimed).extracting(Notice::recipient).contains(address);
          claimed.forEach(
              one ->
                  notices.failed(
                      session,
                      one.id(),
                      new Problem("mail-not-sent", "No.", "It is away.", "Wait.", null),
                      before.plusSeconds(3_600)));
          return null;
        });

    outbox.send();
    assertThat(letters(address)).as("its time has not come").isEmpty();
    assertThat(notice(address).state()).isEqualTo(Notice.State.WAITING);
    assertThat(notice(address).problem().code()).isEqualTo("mail-not-sent");

    database.write(
        session -> {
          notices.endLeases(session);
          return null;
        });
    outbox.send();
    assertThat(letters(address)).hasSize(1);
    assertThat(notice(address).attempts()).isGreaterThanOrEqualTo(1);
  }

  @Test
  public void whoNobodyCanReachIsSaidAndNotTriedForEver() {
    database.write(
        session -> {
          notices.add(
              session,
              person,
              Notice.Kind.DEPARTURE_BEGUN,
              null,
              "Nobody reads this",
              null,
              Instant.now());
          return null;
        });

    outbox.send();

    var undeliverable =
        database.read(session -> notices.undeliverable(session, Reach.EVERYBODY, 500));
    assertThat(undeliverable).extracting(Notice::subject).contains("Nobody reads this");
  }
}
