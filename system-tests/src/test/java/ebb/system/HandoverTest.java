package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.standins.Dovecot;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.Date;
import org.testng.annotations.Test;

/** What a leaver's mailbox holds goes to whoever gets it, on a real mail server. */
public class HandoverTest extends HandingOver {
  @Test
  public void mailAndFilesOfOneAccountAreHandedOverAndProven() throws Exception {
    stage.mailHouse().items().add(account(leaver), "files", "a note", "text", true);
    deliver(leaver, "INBOX", 1, 3);
    deliver(leaver, "Voyages.2026", 4, 2);

    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();

    assertThat(contents(head, "From Ida Leaver%s.INBOX".formatted(mark)))
        .isEqualTo(contents(leaver, "INBOX"));
    assertThat(contents(head, "From Ida Leaver%s.Voyages.2026".formatted(mark))).hasSize(2);
    assertThat(stage.mailHouse().items().names(account(head))).containsExactly("a note");
    assertThat(shut()).containsExactly("waiting");
    assertThat(client.done("departures", "show", number()))
        .containsPattern("owned +files: 1, 4 B; 1 arrived")
        .containsPattern("owned +mail: 5, .*; 5 arrived");
    assertThat(client.done("departures", "items", number(), part()))
        .containsPattern(
            "INBOX, message of .* arrived +with Ada Head%1$s: From Ida Leaver%1$s.INBOX"
                .formatted(mark));
  }

  @Test
  public void mailThatComesInAfterTheProofIsHandedOverBeforeTheAccountGoes() throws Exception {
    deliver(leaver, "INBOX", 1, 2);
    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();
    assertThat(contents(head, "From Ida Leaver%s.INBOX".formatted(mark))).hasSize(2);

    deliver(leaver, "INBOX", 3, 1);
    client.done("clock", "--days=40");
    client.settle();

    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(contents(head, "From Ida Leaver%s.INBOX".formatted(mark))).hasSize(3);
    assertThat(client.done("journal", "list")).contains("1 items came in since stock was taken");
  }

  @Test
  public void whatIsLeftOutStandsInTheSheetWithNameAndReason() throws Exception {
    deliver(leaver, "INBOX", 1, 3);
    leave();
    client.settle();
    var first = client.json("departures", "items", number(), part()).at("/items/0/id").asString();

    client.done(
        "departures",
        "leave-out",
        number(),
        part(),
        "--item=" + first,
        "--reason=a private letter");
    client.done("clock", "--days=4");
    client.settle();

    assertThat(contents(head, "From Ida Leaver%s.INBOX".formatted(mark))).hasSize(2);
    assertThat(client.done("departures", "items", number(), part(), "--state=left-out"))
        .contains("administrator: a private letter");
    assertThat(shut()).containsExactly("waiting");
    assertThat(
            client
                .run(
                    "departures", "leave-out", number(), part(), "--kind=mail", "--reason=too late")
                .err())
        .contains("Nothing of that waits");
  }

  @Test
  public void aKindGoesToAPlaceholderNobodySignsInTo() throws Exception {
    var archive = placeholder();
    connect(Dovecot.PASSWORD, "--set=recipient.mail=" + archive);
    stage.mailHouse().items().add(account(leaver), "files", "a note", "text", true);
    deliver(leaver, "INBOX", 1, 3);

    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();

    assertThat(contents(archive, "From Ida Leaver%s.INBOX".formatted(mark))).hasSize(3);
    assertThat(stage.mailHouse().items().names(account(head))).containsExactly("a note");
    assertThat(shut()).containsExactly("waiting");
    assertThat(client.done("departures", "show", number()))
        .contains(
            "All of it goes to Ada Head%1$s (files), Archive Keeper%1$s (mail)".formatted(mark));
    assertThat(client.done("departures", "items", number(), part()))
        .containsPattern("mail .*with Archive Keeper%s: From".formatted(mark))
        .containsPattern("a note .*with Ada Head" + mark);
    connect(Dovecot.PASSWORD);
  }

  @Test
  public void whatIsPastGoesToAnotherThanWhatIsCurrent() throws Exception {
    var archive = placeholder();
    connect(Dovecot.PASSWORD, "--set=mailPastAfter=365", "--set=recipient.past-mail=" + archive);
    deliver(leaver, "INBOX", 1, 3, Date.from(Instant.now().minus(Duration.ofDays(366))));
    deliver(leaver, "INBOX", 4, 2);

    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();

    assertThat(contents(archive, "From Ida Leaver%s.INBOX".formatted(mark)))
        .hasSize(3)
        .allMatch(one -> one.matches("(?s).*Text [123].*"));
    assertThat(contents(head, "From Ida Leaver%s.INBOX".formatted(mark)))
        .hasSize(2)
        .allMatch(one -> one.matches("(?s).*Text [45].*"));
    assertThat(shut()).containsExactly("waiting");
    assertThat(client.done("departures", "show", number()))
        .containsPattern("owned +mail: 2, .*; 2 arrived")
        .containsPattern("owned +past-mail: 3, .*; 3 arrived")
        .contains(
            "All of it goes to Ada Head%1$s (mail), Archive Keeper%1$s (past-mail)"
                .formatted(mark));
    connect(Dovecot.PASSWORD);
  }

  private String placeholder() throws Exception {
    var archive = add("Archive", "Keeper");
    client.done("people", "edit", person(archive), "userType=technical", "--release");
    client.settle();
    client.done(
        "suspensions",
        "start",
        person(archive),
        "--reason=other",
        "--note=a placeholder",
        "--release");
    client.settle();
    return archive;
  }

  @Test
  public void oneMessageIsOpenedWithAReasonThatIsInTheJournal() throws Exception {
    deliver(leaver, "INBOX", 1, 1);
    leave();
    client.settle();
    var item = client.json("departures", "items", number(), part()).at("/items/0/id").asString();
    var file = stage.home().resolve("letter.eml");

    client.done(
        "departures",
        "open",
        number(),
        part(),
        "--item=" + item,
        "--reason=a court order",
        "--to=" + file);

    assertThat(file).content().contains("Subject: Letter 1", "Text 1");
    assertThat(client.done("journal", "list"))
        .containsPattern("opened INBOX, message of .*a court order");
    assertThat(
            client
                .run(
                    "departures",
                    "open",
                    number(),
                    part(),
                    "--item=another",
                    "--reason=x",
                    "--to=" + file)
                .err())
        .contains("There is no item another");
  }

  @Test
  public void whatAServerHeldThatIsTakenOutOfTheSettingsIsNotTakenForHandedOver() throws Exception {
    deliver(leaver, "INBOX", 1, 2);
    leave();
    client.settle();
    client.done(
        "applications",
        "connect",
        "mail-house",
        "--kind=scim",
        "--set=address=" + stage.mailHouse().scim(),
        "--set=companion=" + stage.mailHouse().companion(),
        "--set=network=internal");
    client.done("clock", "--days=4");
    client.settle();

    assertThat(shut()).contains("handover");
    connect(Dovecot.PASSWORD);
    client.done("departures", "retry", number());
    client.settle();
    assertThat(shut()).containsExactly("waiting");
    assertThat(count(head, "From Ida Leaver%s.INBOX".formatted(mark))).isEqualTo(2);
  }

  @Test
  public void aServiceThatIsKilledMidwayGoesOnAndBringsNothingTwice() throws Exception {
    var count = 400;
    deliver(leaver, "INBOX", 1, count);
    leave();
    client.settle();
    client.done("clock", "--days=4");
    var folder = "From Ida Leaver%s.INBOX".formatted(mark);
    for (int kill = 1; kill <= 2; kill++) {
      var some = kill * 90;
      waitUntil("some have arrived", () -> count(head, folder) >= some);
      stage.killService();
      stage.startService();
    }
    client.settle();

    assertThat(count(head, folder)).isEqualTo(count);
    assertThat(contents(head, folder)).isEqualTo(contents(leaver, "INBOX"));
    assertThat(shut()).containsExactly("waiting");
  }

  @Test
  public void aServerThatIsAwayOrLetsNobodyInIsSaidAndGoesOnByItself() throws Exception {
    deliver(leaver, "INBOX", 1, 2);
    connect("guessed");
    leave();
    client.settle();
    assertThat(client.done("departures", "show", number()))
        .contains("does not let ebb in for " + leaver);
    assertThat(client.done("now")).contains("does not let ebb in for " + leaver);

    connect(Dovecot.PASSWORD);
    client.done("departures", "retry", number());
    client.settle();
    assertThat(client.done("departures", "show", number())).containsPattern("owned +mail: 2");
  }

  @Test
  public void whoeverWritesIsAnsweredUntilTheLeaverIsBack() throws Exception {
    var text =
        Files.writeString(
            stage.home().resolve("reply.txt"),
            """
            {name} has left Skerrow Ferries

            Please write to {recipient} at {address}.
            """);
    client.done("departures", "procedures", "employee", "--reply=" + text, "--reply-days=60");
    client.done("people", "edit", person(head), "emails.home=", "--release");
    leave();
    client.settle();
    waitUntil("it is set", () -> reply("set"));

    assertThat(script(leaver))
        .contains(
            "Ida Leaver%s has left Skerrow Ferries".formatted(mark),
            "Please write to Ada Head%s at %s@skerrow.example.".formatted(mark, head));
    assertThat(client.done("departures", "show", number()))
        .containsPattern("reply +- +done +Whoever writes is answered, until ");

    client.done("people", "edit", person(leaver), "endDate=", "--release");
    client.settle();
    waitUntil("it is taken back", () -> reply("taken back"));
    assertThat(script(leaver)).isEmpty();
    client.done("departures", "procedures", "employee", "--drop");
  }

  private boolean reply(String state) {
    return house().at("/reply/state").asString().equals(state);
  }

  /** What runs for somebody's mailbox; empty if nothing does. */
  private String script(String login) throws Exception {
    return dovecot.activeScript(login);
  }
}
