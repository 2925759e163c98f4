package ebb.system;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Dovecot;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.Store;
import jakarta.mail.internet.MimeMessage;
import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import tools.jackson.databind.JsonNode;

/** Somebody who leaves, and whoever gets what they leave, at a house with a real mail server. */
abstract class HandingOver {
  Stage stage;
  Client client;
  Dovecot dovecot;

  /** Ends the names of those of one test. */
  char mark = 'a' - 1;

  String head;
  String leaver;

  @BeforeClass
  public void start() throws Exception {
    dovecot = Dovecot.start("");
    stage = Services.start();
    client = new Client(stage.url(), stage.token());
    SetUp.run(client, stage);
    connect(Dovecot.PASSWORD);
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    stage.close();
    dovecot.close();
  }

  @BeforeMethod
  public void bringTwo() throws Exception {
    mark++;
    head = add("Ada", "Head");
    leaver = add("Ida", "Leaver");
    client.settle();
  }

  /** Beside its SCIM and its companion interface the house has a mail server. */
  void connect(String password, String... more) throws Exception {
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

  void deliver(String login, String folder, int from, int count) throws Exception {
    deliver(login, folder, from, count, new Date());
  }

  void deliver(String login, String folder, int from, int count, Date received) throws Exception {
    try (var store = store(login)) {
      var into = store.getFolder(folder);
      if (!into.exists()) {
        into.create(Folder.HOLDS_MESSAGES);
      }
      var messages = new Message[count];
      for (int i = 0; i < count; i++) {
        messages[i] =
            new Received(
                received,
                new ByteArrayInputStream(
                    "Message-ID: <%s-%d@skerrow.example>\r\nSubject: Letter %2$d\r\n\r\nText %2$d\r\n"
                        .formatted(login, from + i)
                        .getBytes(StandardCharsets.US_ASCII)));
      }
      into.appendMessages(messages);
    }
  }

  /** A message that came on a day of its own. */
  private static final class Received extends MimeMessage {
    private final Date received;

    Received(Date received, InputStream text) throws MessagingException {
      super(null, text);
      this.received = received;
    }

    @Override
    public Date getReceivedDate() {
      return received;
    }
  }

  int count(String login, String folder) throws Exception {
    try (var store = store(login)) {
      var found = store.getFolder(folder);
      return found.exists() ? found.getMessageCount() : 0;
    }
  }

  List<String> contents(String login, String name) throws Exception {
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
  String add(String given, String family, String... more) {
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

  void leave() {
    var today = client.today();
    client.done(
        "people",
        "edit",
        person(leaver),
        "endDate=" + today.minusDays(1),
        "manager=" + person(head),
        "--release");
  }

  String person(String login) {
    return client
        .json("people", "list", "--filter", "userName eq \"%s\"".formatted(login))
        .at("/items/0/id")
        .asString();
  }

  String account(String login) {
    return stage.mailHouse().accounts().byName(login).path("id").asText();
  }

  JsonNode departure() {
    return client
        .json("departures", "list", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(one -> one.path("displayName").asString().equals("Ida Leaver" + mark))
        .findFirst()
        .orElseThrow();
  }

  String number() {
    return departure().path("id").asString();
  }

  JsonNode house() {
    return departure()
        .path("accounts")
        .valueStream()
        .filter(one -> one.path("application").asString().equals("mail-house"))
        .findFirst()
        .orElseThrow();
  }

  String part() {
    return house().path("id").asString();
  }

  List<String> shut() {
    return house()
        .path("gates")
        .valueStream()
        .filter(gate -> !List.of("open", "waived").contains(gate.path("state").asString()))
        .map(gate -> gate.path("name").asString())
        .toList();
  }
}
