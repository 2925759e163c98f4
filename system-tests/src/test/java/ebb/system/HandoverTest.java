package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Apache;
import ebb.standins.Dovecot;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.Session;
import jakarta.mail.Store;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What a leaver's mailbox holds goes to whoever gets it, on a real mail server. */
public class HandoverTest {
  private Stage stage;
  private Client client;
  private Dovecot dovecot;

  /** Ends the names of those of one test. */
  private char mark = 'a' - 1;

  private String head;
  private String leaver;

  @BeforeClass
  void start() throws Exception {
    dovecot = Dovecot.start("");
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    connect(Dovecot.PASSWORD);
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    stage.close();
    dovecot.close();
  }

  @BeforeMethod
  void bringTwo() throws Exception {
    mark++;
    head = add("Ada", "Head");
    leaver = add("Ida", "Leaver");
    client.settle();
  }

  /** Beside its SCIM and its companion interface the house has a mail server. */
  private void connect(String password, String... more) throws Exception {
    var command =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                "mail-house",
                "--kind=scim",
                "--set=address=" + stage.mailHouse().scim(),
                "--set=companion=" + stage.mailHouse().companion(),
                "--set=network=internal",
                "--set=mail=" + dovecot.imap(),
                "--set=replies=" + dovecot.sieve(),
                "--set=mailUser=" + Dovecot.MASTER,
                "--set=mailSecurity=none",
                "--secret=mail=" + Files.writeString(secret(), password)));
    command.addAll(List.of(more));
    client.done(command.toArray(String[]::new));
  }

  private Path secret() {
    return stage.home().resolve("mail.secret");
  }

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
        .containsPattern("INBOX, message of .* arrived +From Ida Leaver%s.INBOX".formatted(mark));
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
    for (int kill = 1; kill <= 3; kill++) {
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

  @Test
  public void filesOfAFileServerGoTheSameWay() throws Exception {
    try (var apache = Apache.start("")) {
      var password = Files.writeString(stage.home().resolve("files.secret"), Apache.PASSWORD);
      connect(
          Dovecot.PASSWORD,
          "--set=files=" + apache.address() + "{login}/",
          "--set=filesUser=" + Apache.USER,
          "--secret=files=" + password);
      send(apache, "MKCOL", leaver + "/", "");
      send(apache, "MKCOL", head + "/", "");
      for (int i = 0; i < 30; i++) {
        send(apache, "PUT", "%s/note%d.txt".formatted(leaver, i), "note " + i);
      }
      leave();
      client.settle();
      client.done("clock", "--days=4");
      client.settle();

      assertThat(shut()).containsExactly("waiting");
      assertThat(client.done("departures", "show", number()))
          .containsPattern("owned +files: 30, .*; 30 arrived");
      assertThat(
              send(apache, "GET", "%s/From%%20Ida%%20Leaver%s/note7.txt".formatted(head, mark), ""))
          .isEqualTo("note 7");
    } finally {
      connect(Dovecot.PASSWORD);
    }
  }

  private static String send(Apache apache, String method, String path, String text)
      throws Exception {
    var proof =
        Base64.getEncoder()
            .encodeToString(
                (Apache.USER + ":" + Apache.PASSWORD).getBytes(StandardCharsets.US_ASCII));
    try (var http = HttpClient.newHttpClient()) {
      var answer =
          http.send(
              HttpRequest.newBuilder(URI.create(apache.address() + path))
                  .method(method, BodyPublishers.ofString(text))
                  .header("Authorization", "Basic " + proof)
                  .build(),
              BodyHandlers.ofString());
      assertThat(answer.statusCode()).as(answer.body()).isBetween(200, 299);
      return answer.body();
    }
  }

  private boolean reply(String state) {
    return house().at("/reply/state").asString().equals(state);
  }

  /** What runs for somebody's mailbox; empty if nothing does. */
  private String script(String login) throws Exception {
    return dovecot.activeScript(login);
  }

  private void deliver(String login, String folder, int from, int count) throws Exception {
    try (var store = store(login)) {
      var into = store.getFolder(folder);
      if (!into.exists()) {
        into.create(Folder.HOLDS_MESSAGES);
      }
      var messages = new Message[count];
      for (int i = 0; i < count; i++) {
        messages[i] =
            new MimeMessage(
                null,
                new ByteArrayInputStream(
                    "Message-ID: <%s-%d@skerrow.example>\r\nSubject: Letter %2$d\r\n\r\nText %2$d\r\n"
                        .formatted(login, from + i)
                        .getBytes(StandardCharsets.US_ASCII)));
      }
      into.appendMessages(messages);
    }
  }

  private int count(String login, String folder) throws Exception {
    try (var store = store(login)) {
      var found = store.getFolder(folder);
      return found.exists() ? found.getMessageCount() : 0;
    }
  }

  private List<String> contents(String login, String name) throws Exception {
    var all = new ArrayList<String>();
    try (var store = store(login)) {
      var folder = store.getFolder(name);
      folder.open(Folder.READ_ONLY);
      for (var message : folder.getMessages()) {
        all.add(message.getHeader("Message-ID")[0] + " " + message.getContent());
      }
    }
    all.sort(null);
    return all;
  }

  private Store store(String login) throws Exception {
    var address = URI.create(dovecot.imap());
    var store = Session.getInstance(new Properties()).getStore("imap");
    store.connect(address.getHost(), address.getPort(), login, Dovecot.PASSWORD);
    return store;
  }

  /** Somebody whose family name ends with the mark of this test; gives their login. */
  private String add(String given, String family, String... more) {
    var login = (given + "." + family + mark).toLowerCase(Locale.ROOT);
    var command =
        new ArrayList<>(
            List.of(
                "people",
                "add",
                "name.givenName=" + given,
                "name.familyName=" + family + mark,
                "userType=employee",
                "emails.home=" + login + "@post.example"));
    command.addAll(List.of(more));
    command.add("--release");
    client.done(command.toArray(String[]::new));
    return login;
  }

  private void leave() {
    var today = LocalDate.parse(client.json("forecast", "--days=1").path("from").asString());
    client.done(
        "people",
        "edit",
        person(leaver),
        "endDate=" + today.minusDays(1),
        "manager=" + person(head),
        "--release");
  }

  private String person(String login) {
    return client
        .json("people", "list", "--filter", "userName eq \"%s\"".formatted(login))
        .at("/items/0/id")
        .asString();
  }

  private String account(String login) {
    return stage.mailHouse().accounts().byName(login).path("id").asText();
  }

  private JsonNode departure() {
    return client
        .json("departures", "list", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(one -> one.path("displayName").asString().equals("Ida Leaver" + mark))
        .findFirst()
        .orElseThrow();
  }

  private String number() {
    return departure().path("id").asString();
  }

  private JsonNode house() {
    return departure()
        .path("accounts")
        .valueStream()
        .filter(one -> one.path("application").asString().equals("mail-house"))
        .findFirst()
        .orElseThrow();
  }

  private String part() {
    return house().path("id").asString();
  }

  private List<String> shut() {
    return house()
        .path("gates")
        .valueStream()
        .filter(gate -> !List.of("open", "waived").contains(gate.path("state").asString()))
        .map(gate -> gate.path("name").asString())
        .toList();
  }
}
