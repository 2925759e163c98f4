package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.standins.Dovecot;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;

/** Some time after a departure nothing is known of whoever left, and all that was done still is. */
public class ForgottenTest extends HandingOver {
  private static final String COLUMNS =
      "select c.table_name, c.column_name from information_schema.columns c"
          + " join information_schema.tables t on t.table_name = c.table_name"
          + " where c.table_schema = 'PUBLIC' and t.table_type = 'BASE TABLE'"
          + " and c.data_type like '%CHARACTER%'"
          // What was answered is kept for a week only.
          + " and c.table_name <> 'ANSWERED'";

  @AfterMethod(alwaysRun = true)
  public void rememberAgain() throws Exception {
    connect(Dovecot.PASSWORD);
    client.run("departures", "procedures", "employee", "--drop");
  }

  @Test
  public void noTableNamesWhoeverIsForgottenAndTheJournalIsWhole() throws Exception {
    var who = person(leaver);
    stage.mailHouse().items().add(account(leaver), "files", "Leaver's notes", "text", true);
    deliver(leaver, "INBOX", 1, 2);
    client.done(
        "suspensions", "start", who, "--reason=other", "--note=Ida Leaver is away", "--release");
    client.settle();
    leave();
    client.settle();
    passes(40);
    isDone(who);
    var number = number();
    client.done("departures", "procedures", "employee", "--forget=30");

    assertThat(client.done("departures", "show", number))
        .containsPattern("forgetting +\\d{4}-\\d\\d-\\d\\d ahead");
    passes(28);
    assertThat(client.json("people", "show", who).path("displayName").asString())
        .startsWith("Ida Leaver");
    passes(2);

    assertThat(client.json("people", "show", who).path("displayName").asString())
        .isEqualTo("Forgotten");
    assertThat(client.done("departures", "show", number))
        .containsPattern("forgetting +\\S+ done .*stays in the journal")
        .containsPattern("owned +files: 1, .*; 1 arrived");
    assertThat(client.done("journal", "list", "--person=" + who))
        .contains("forgot what was known of them");
    assertThat(client.done("journal", "verify")).contains("whole");
    assertThat(naming("leaver" + mark)).isEmpty();
  }

  @Test
  public void namesOfTheForgottenGoToNobodyElseForAsLongAsIsSet() throws Exception {
    client.done("logins", "set", "--rest=10");
    var who = person(leaver);
    leave();
    client.settle();
    leavesAndIsForgotten(who);
    var other = person(head);

    assertThat(client.run("people", "rename", other, "--login=" + leaver).err())
        .contains("is, or was, the login of somebody who was forgotten, and it rests");
    passes(11);
    assertThat(client.done("people", "rename", other, "--login=" + leaver))
        .contains(head + " -> " + leaver);
    client.done("logins", "set");
  }

  @Test
  public void whoeverAFileGoesOnNamingStaysForgotten() throws Exception {
    bring("");
    var who = person(("oda.sailor" + mark).toLowerCase(Locale.ROOT));
    var lastDay = yesterday();
    bring(lastDay);
    leavesAndIsForgotten(who);

    bring(lastDay);

    assertThat(client.json("people", "show", who).path("displayName").asString())
        .isEqualTo("Forgotten");
    assertThat(naming("sailor" + mark)).isEmpty();
  }

  @Test
  public void whoeverComesBackAfterThatHasTheirStrippedAccountUnderTheirName() throws Exception {
    connect(Dovecot.PASSWORD, "--set=removal=strip");
    bring("");
    var login = ("oda.sailor" + mark).toLowerCase(Locale.ROOT);
    var who = person(login);
    bring(yesterday());
    leavesAndIsForgotten(who);
    assertThat(stage.mailHouse().accounts().byName(login)).isNull();

    bring("");

    assertThat(person(login)).isEqualTo(who);
    assertThat(stage.mailHouse().accounts().byName(login).path("active").asBoolean()).isTrue();
  }

  private String yesterday() {
    var today = client.today();
    return DateTimeFormatter.ofPattern("dd.MM.yyyy").format(today.minusDays(1));
  }

  /** A file that names one. */
  private void bring(String lastDay) throws Exception {
    var file =
        Files.writeString(
            stage.home().resolve("one.csv"),
            """
            Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,First day,Last day,Payroll group
            77-%1$s,Sailor%1$s,Oda,Mate,Deck,Skerrow,,employee,,,01.03.2026,%2$s,
            """
                .formatted(mark, lastDay));
    var set = client.json("imports", "add", file.toString(), "--source=hr").path("changeSet");
    if (!set.isNull()) {
      client.done("changes", "release", set.asString(), "--reason=a trial");
    }
    client.settle();
  }

  @Test
  public void whoseAccountsStayStrippedIsForgottenAllTheSame() throws Exception {
    connect(Dovecot.PASSWORD, "--set=removal=strip");
    var who = person(leaver);
    leave();
    client.settle();
    leavesAndIsForgotten(who);
    assertThat(stage.mailHouse().accounts().byName(leaver)).isNull();
    assertThat(client.json("applications", "sync", "mail-house").path("changeSet").isNull())
        .as("their account is still known, and as it should be")
        .isTrue();
    assertThat(naming("leaver" + mark)).isEmpty();
  }

  @Test
  public void nobodyIsForgottenOfWhomSomethingIsHeld() throws Exception {
    var who = person(leaver);
    leave();
    client.settle();
    passes(40);
    isDone(who);
    client.done("people", "hold", who, "--reason=an inquiry");
    client.done("departures", "procedures", "employee", "--forget=30");

    passes(31);

    assertThat(client.json("people", "show", who).path("displayName").asString())
        .startsWith("Ida Leaver");
    assertThat(client.done("departures", "show", number()))
        .containsPattern("forgetting +\\S+ waits .*A hold is in force: an inquiry");
  }

  /** Whose last day is over. */
  private void leavesAndIsForgotten(String who) throws Exception {
    passes(40);
    isDone(who);
    client.done("departures", "procedures", "employee", "--forget=30");
    passes(31);
    assertThat(client.json("people", "show", who).path("displayName").asString())
        .isEqualTo("Forgotten");
  }

  /** Only then do the days count after which they are forgotten. */
  private void isDone(String who) throws Exception {
    waitUntil(
        "their departure is done",
        () ->
            client
                .json("departures", "list", "--limit=1000")
                .path("items")
                .valueStream()
                .anyMatch(
                    one ->
                        one.path("person").asString().equals(who)
                            && one.path("state").asString().equals("done")));
  }

  private void passes(int days) throws Exception {
    client.done("clock", "--days=" + days);
    client.settle();
  }

  /** Columns in which a word is found, whoever wrote it there. */
  private List<String> naming(String word) throws Exception {
    stage.stopService();
    try (var database =
        DriverManager.getConnection("jdbc:h2:file:" + stage.home() + "/ebb", "ebb", "")) {
      return naming(database, word.toLowerCase(Locale.ROOT));
    } finally {
      stage.startService();
    }
  }

  private static List<String> naming(Connection database, String word) throws SQLException {
    var found = new ArrayList<String>();
    var looked = 0;
    try (var columns = database.createStatement().executeQuery(COLUMNS)) {
      while (columns.next()) {
        looked++;
        var sql =
            "select \"%2$s\" from \"%1$s\" where locate('%3$s', lower(\"%2$s\")) > 0"
                .formatted(columns.getString(1), columns.getString(2), word);
        try (var rows = database.createStatement().executeQuery(sql)) {
          while (rows.next()) {
            found.add(
                "%s.%s: %s"
                    .formatted(columns.getString(1), columns.getString(2), rows.getString(1)));
          }
        }
      }
    }
    assertThat(looked).as("columns of text").isGreaterThan(100);
    return found;
  }
}
