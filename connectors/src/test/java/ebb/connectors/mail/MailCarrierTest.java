package ebb.connectors.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.connectors.carry.Content;
import ebb.connectors.carry.Past;
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
import ebb.standins.Dovecot;
import jakarta.mail.Flags;
import jakarta.mail.Flags.Flag;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Date;
import java.util.HashSet;
import java.util.List;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.eclipse.angus.mail.iap.CommandFailedException;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class MailCarrierTest {
  private static final ZonedDateTime TURN = ZonedDateTime.parse("2026-12-01T00:00Z");
  private static final Past UNPARTED = new Past("mail", null, Instant::now);
  private static final Date DAY = Date.from(Instant.parse("2026-03-01T08:00:00Z"));

  private Dovecot dovecot;
  private int number;

  @BeforeClass
  void open() throws Exception {
    dovecot = Dovecot.start("");
  }

  @AfterClass(alwaysRun = true)
  void close() throws Exception {
    dovecot.close();
  }

  @Test
  public void everyFolderFlagDayAndByteArrives() throws Exception {
    var flags = new Flags(Flag.SEEN);
    flags.add(Flag.FLAGGED);
    flags.add("$Forwarded");
    try (var mailbox = mailbox("ada")) {
      mailbox.create("Überfahrten.2026.日本");
      add(mailbox, "INBOX", message("one", "text\r\n"), flags);
      add(mailbox, "INBOX", "no fields at all\r\n", new Flags());
      add(
          mailbox,
          "Überfahrten.2026.日本",
          message("two", "x".repeat(3 << 20) + "\r\n"),
          new Flags());
      add(
          mailbox,
          "Überfahrten.2026.日本",
          message("three", "\u00ff\u0001 .\r\n..\r\n"),
          new Flags());
    }

    var carried = carry("ada", "bea", "From Ada");

    assertThat(carried).hasSize(4).allMatch(Arrived.class::isInstance);
    assertThat(contents("bea", "From Ada.INBOX")).isEqualTo(contents("ada", "INBOX"));
    assertThat(contents("bea", "From Ada.Überfahrten.2026.日本"))
        .isEqualTo(contents("ada", "Überfahrten.2026.日本"));
    try (var mailbox = mailbox("bea")) {
      mailbox.select("From Ada.INBOX");
      var marked = 0;
      for (var uid : mailbox.numbers()) {
        var read = mailbox.read(uid).orElseThrow();
        read.content().close();
        assertThat(read.received()).isEqualTo(DAY);
        marked += read.flags().contains(flags) ? 1 : 0;
      }
      assertThat(marked).isEqualTo(1);
    }
  }

  @Test
  public void takingStockReadsNoContentsAndNamesNoSubjects() throws Exception {
    try (var mailbox = mailbox("cleo")) {
      add(mailbox, "INBOX", message("secret", "text\r\n"), new Flags());
    }

    var items = items("cleo");

    assertThat(items).hasSize(1);
    assertThat(items.getFirst().name()).isEqualTo("INBOX, message of 2026-03-01");
    assertThat(items.getFirst().bytes()).isEqualTo(message("secret", "text\r\n").length());
    assertThat(items.getFirst().sha256()).isEmpty();
    try (var mailbox = mailbox("cleo")) {
      mailbox.select("INBOX");
      var read = mailbox.read(mailbox.numbers().getFirst()).orElseThrow();
      read.content().close();
      assertThat(read.flags().contains(Flag.SEEN)).isFalse();
    }
  }

  @Test
  public void whatWasReceivedLongAgoIsAKindOfItsOwn() throws Exception {
    try (var mailbox = mailbox("gus")) {
      add(mailbox, "INBOX", message("old", "text\r\n"), new Flags());
    }
    var before = DAY.toInstant().plus(Duration.ofDays(30));
    var after = before.plusSeconds(1);

    assertThat(kindsOn(before)).containsExactly("mail");
    assertThat(kindsOn(after)).containsExactly("past-mail");
  }

  private List<String> kindsOn(Instant now) throws Exception {
    var kinds = new ArrayList<String>();
    new MailCarrier(
            server(dovecot, Dovecot.PASSWORD),
            login -> login,
            false,
            new Past("mail", Duration.ofDays(30), () -> now))
        .items("gus", item -> kinds.add(item.kind()));
    return kinds;
  }

  /** Broken off at random, over and over: in the end everything is there, and once. */
  @Test
  public void nothingArrivesTwiceHoweverOftenItIsBrokenOff() throws Exception {
    try (var mailbox = mailbox("dora")) {
      mailbox.create("Old");
      for (int i = 0; i < 60; i++) {
        add(
            mailbox,
            i % 2 == 0 ? "INBOX" : "Old",
            message("m" + i, "text " + i + "\r\n"),
            new Flags());
      }
      add(mailbox, "INBOX", message("m0", "text 0\r\n"), new Flags());
      add(mailbox, "INBOX", message("m0", "another text of that name\r\n"), new Flags());
    }
    var random = Chance.random(4);
    var items = items("dora");
    var done = new HashSet<String>();
    int forgotten = 0;
    while (done.size() < items.size()) {
      var left = items.stream().filter(item -> !done.contains(item.id())).toList();
      // What arrived and was not noted, as after a crash, is carried again.
      var stop = 1 + random.nextInt(12);
      var told = new ArrayList<Carried>();
      carrier()
          .carry(
              new Route("dora", "emil", "From Dora", TURN),
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

    assertThat(contents("emil", "From Dora.INBOX"))
        .as("two that are the same arrive as one")
        .hasSize(31)
        .isEqualTo(new ArrayList<>(new TreeSet<>(contents("dora", "INBOX"))));
    assertThat(contents("emil", "From Dora.Old")).isEqualTo(contents("dora", "Old"));
  }

  @Test
  public void whatVanishedMeanwhileIsSaidAndTheRestGoesOn() throws Exception {
    try (var mailbox = mailbox("finn")) {
      add(mailbox, "INBOX", message("stays", "text\r\n"), new Flags());
    }
    var items = new ArrayList<>(items("finn"));
    var key = MessageKey.of(items.getFirst().id());
    items.add(
        new Item(
            new MessageKey("INBOX", key.validity(), key.uid() + 7).text(),
            "mail",
            "x",
            1,
            "",
            true));
    items.add(
        new Item(
            new MessageKey("INBOX", key.validity() + 1, key.uid()).text(),
            "mail",
            "y",
            1,
            "",
            true));

    var carried = carry("finn", "gil", "From Finn", items, _ -> true);

    var became = new TreeMap<String, String>();
    carried.forEach(
        one ->
            became.put(
                one.item(),
                one instanceof NotCarried(_, var problem) ? problem.code() : "arrived"));
    assertThat(became.values()).containsExactlyInAnyOrder("arrived", "item-gone", "item-gone");
  }

  @Test
  public void aFullMailboxIsSaidAndWhatArrivedStays() throws Exception {
    try (var small = Dovecot.start("quota_rule = *:storage=300K")) {
      var server = server(small, Dovecot.PASSWORD);
      try (var mailbox = Mailbox.of(server, "hugo")) {
        for (int i = 0; i < 5; i++) {
          add(mailbox, "INBOX", message("big" + i, "x".repeat(50_000) + "\r\n"), new Flags());
        }
      }
      try (var mailbox = Mailbox.of(server, "ida")) {
        add(mailbox, "INBOX", message("own", "y".repeat(150_000) + "\r\n"), new Flags());
      }
      var carrier = new MailCarrier(server, login -> login, false, UNPARTED);
      var items = new ArrayList<Item>();
      carrier.items("hugo", items::add);
      var carried = new ArrayList<Carried>();

      assertThat(carrier.room("ida").orElseThrow()).isBetween(100_000L, 160_000L);
      assertThatThrownBy(
              () -> carrier.carry(new Route("hugo", "ida", "From Hugo", TURN), items, carried::add))
          .isInstanceOfSatisfying(
              Unreachable.class, e -> assertThat(e.problem().code()).isEqualTo("recipient-full"));
      assertThat(carried).isNotEmpty().hasSizeLessThan(5).allMatch(Arrived.class::isInstance);
    }
  }

  @Test
  public void aFolderThatIsListedAndNotOpenedIsNamedAndNotTakenForEmpty() throws Exception {
    try (var mailbox = mailbox("kai")) {
      mailbox.create("Locked");
    }
    dovecot.lock("kai", "Locked");

    assertThatThrownBy(() -> items("kai"))
        .isInstanceOfSatisfying(
            Unreachable.class,
            e -> {
              assertThat(e.problem().code()).isEqualTo("mail-folder-not-opened");
              assertThat(e.problem().what()).contains("Locked of kai");
            });
  }

  @Test
  public void whoMayNotSignInAndAServerThatIsAwayAreSaid() throws Exception {
    var wrong = new MailCarrier(server(dovecot, "guessed"), login -> login, false, UNPARTED);
    assertThatThrownBy(() -> wrong.items("jan", _ -> {}))
        .isInstanceOfSatisfying(
            Unreachable.class,
            e -> assertThat(e.problem().code()).isEqualTo("mail-sign-in-refused"));

    var secure =
        new MailCarrier(
            server(dovecot, Dovecot.PASSWORD, MailServer.Security.STARTTLS),
            login -> login,
            false,
            UNPARTED);
    assertThatThrownBy(() -> secure.items("jan", _ -> {}))
        .isInstanceOfSatisfying(
            Unreachable.class, e -> assertThat(e.problem().code()).isEqualTo("mail-not-secure"));

    try (var other = Dovecot.start("")) {
      var carrier =
          new MailCarrier(server(other, Dovecot.PASSWORD), login -> login, false, UNPARTED);
      other.stop();
      assertThatThrownBy(() -> carrier.items("jan", _ -> {}))
          .isInstanceOfSatisfying(
              Unreachable.class, e -> assertThat(e.problem().code()).isEqualTo("mail-no-answer"));
    }
  }

  @Test
  public void mailThatIsSharedStaysWhereItIsAndIsReadByTheRecipient() throws Exception {
    try (var other = Dovecot.startSharing()) {
      var at = server(other, Dovecot.PASSWORD);
      var sharing = new MailCarrier(at, login -> login, true, UNPARTED);
      try (var mailbox = Mailbox.of(at, "ada");
          var _ = Mailbox.of(at, "bea")) {
        mailbox.create("Voyages.2026");
        add(mailbox, "INBOX", message("one", "text\r\n"), new Flags());
        add(mailbox, "Voyages.2026", message("two", "more\r\n"), new Flags());
      }
      var items = new ArrayList<Item>();
      sharing.items("ada", items::add);
      var carried = new ArrayList<Carried>();
      sharing.carry(new Route("ada", "bea", "From Ada", TURN), items, carried::add);

      assertThat(carried)
          .extracting(one -> ((Arrived) one).where())
          .containsExactlyInAnyOrder("shared.ada.INBOX", "shared.ada.Voyages.2026");
      try (var mailbox = Mailbox.of(at, "bea")) {
        mailbox.select("shared.ada.Voyages.2026");
        assertThat(mailbox.numbers()).hasSize(1);
      }
      try (var mailbox = Mailbox.of(at, "cleo")) {
        assertThatThrownBy(() -> mailbox.select("shared.ada.Voyages.2026"))
            .isInstanceOf(CommandFailedException.class);
      }
    }
  }

  @Test
  public void aServerOnWhichNothingCanBeSharedIsSaidToBe() throws Exception {
    try (var mailbox = mailbox("olaf")) {
      add(mailbox, "INBOX", message("one", "text\r\n"), new Flags());
    }
    var sharing =
        new MailCarrier(server(dovecot, Dovecot.PASSWORD), login -> login, true, UNPARTED);

    assertThatThrownBy(
            () -> sharing.carry(new Route("olaf", "pia", "", TURN), items("olaf"), _ -> true))
        .isInstanceOfSatisfying(
            Unreachable.class,
            e -> assertThat(e.problem().code()).isEqualTo("sharing-not-offered"));
  }

  private List<Carried> carry(String from, String to, String place) throws Unreachable {
    return carry(from, to, place, items(from), _ -> true);
  }

  private List<Carried> carry(
      String from, String to, String place, List<Item> items, Predicate<Carried> goOn)
      throws Unreachable {
    var carried = new ArrayList<Carried>();
    carrier()
        .carry(
            new Route(from, to, place, TURN),
            items,
            one -> {
              carried.add(one);
              return goOn.test(one);
            });
    return carried;
  }

  private List<Item> items(String login) throws Unreachable {
    var items = new ArrayList<Item>();
    carrier().items(login, items::add);
    return items;
  }

  private MailCarrier carrier() {
    return new MailCarrier(server(dovecot, Dovecot.PASSWORD), login -> login, false, UNPARTED);
  }

  private Mailbox mailbox(String login) throws Unreachable {
    return Mailbox.of(server(dovecot, Dovecot.PASSWORD), login);
  }

  private static MailServer server(Dovecot dovecot, String password) {
    return server(dovecot, password, MailServer.Security.NONE);
  }

  private static MailServer server(Dovecot dovecot, String password, MailServer.Security security) {
    var address = URI.create(dovecot.imap());
    return new MailServer(
        "house",
        address.getHost(),
        address.getPort(),
        security,
        Dovecot.MASTER,
        new Secret(password),
        Tls.USUAL,
        Network.INTERNAL,
        Duration.ofSeconds(10));
  }

  private String message(String id, String text) {
    return "Message-ID: <%s@skerrow.example>\r\nSubject: private\r\n\r\n%s".formatted(id, text);
  }

  private void add(Mailbox mailbox, String folder, String text, Flags flags) throws Exception {
    number++;
    try (var content = new Content()) {
      content.write(text.getBytes(StandardCharsets.ISO_8859_1));
      mailbox.append(folder, new Mailbox.Read(content, flags, DAY, "added " + number));
    }
  }

  /** Checksums of what lies in a folder, sorted. */
  private List<String> contents(String login, String folder) throws Exception {
    var sums = new ArrayList<String>();
    try (var mailbox = mailbox(login)) {
      mailbox.select(folder);
      for (var uid : mailbox.numbers()) {
        try (var content = mailbox.read(uid).orElseThrow().content()) {
          sums.add(content.sha256());
        }
      }
    }
    sums.sort(null);
    return sums;
  }
}
