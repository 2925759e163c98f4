package ebb.connectors.companion;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.Lines;
import ebb.connectors.scim.ScimConnector;
import ebb.core.application.Activity;
import ebb.core.application.Connector;
import ebb.core.application.EarlierItems;
import ebb.core.application.Instruction;
import ebb.core.application.Ownership;
import ebb.core.application.Ownership.TransferState;
import ebb.core.application.Part;
import ebb.core.application.Replies.Reply;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import ebb.standins.Faults;
import ebb.standins.MailHouse;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class JoinedTest {
  private MailHouse house;
  private Connector connector;

  @BeforeClass
  void open() throws IOException {
    house = new MailHouse(0, "token");
    var settings =
        Map.of("address", house.scim(), "companion", house.companion(), "network", "internal");
    var secrets = Secrets.token("token");
    connector =
        new Joined(
            ScimConnector.open("house", settings, secrets, 8),
            new CompanionClient(new JsonHttp(Lines.companion("house", settings, secrets, 8))));
  }

  @AfterClass
  void close() {
    connector.close();
    house.close();
  }

  @AfterMethod
  void wellAgain() {
    house.faults().clear();
  }

  @Test
  public void handsOverWhatAnAccountOwnsOnce() throws Unreachable {
    var from = house.accounts().add("giver");
    var to = house.accounts().add("taker");
    for (int i = 0; i < 450; i++) {
      house.items().add(from, "files", "note " + i, "text " + i, true);
    }
    var ownership = connector.ownership().orElseThrow();
    var owned = items(ownership, from);

    var first = ownership.startTransfer(from, to, Set.of(), "key-1");
    var second = ownership.startTransfer(from, to, Set.of(), "key-1");

    assertThat(second).isEqualTo(first);
    assertThat(ownership.transfer(first.id()).state()).isEqualTo(TransferState.DONE);
    assertThat(owned).hasSize(450);
    assertThat(items(ownership, from)).isEmpty();
    assertThat(items(ownership, to)).isEqualTo(owned);
  }

  @Test
  public void saysWhoStillRefersToAnAccount() throws Unreachable {
    var boss = house.accounts().add("boss");
    connector.apply(
        new Instruction.Create(
            "ebb-report",
            true,
            new TreeMap<>(
                Map.of(
                    "userName", List.of("report"),
                    "manager", List.of(boss),
                    "displayName", List.of("Ada Finch")))));

    assertThat(connector.references().orElseThrow().to(boss))
        .singleElement()
        .satisfies(reference -> assertThat(reference.what()).isEqualTo("manager of Ada Finch"));
  }

  @Test
  public void saysWhatWasMadeForAGroupEarlierAndHasItFollow() throws Unreachable {
    house.accounts().addGroup("night watch");
    var early = house.accounts().add("early");
    house.accounts().putInto("night watch", early);
    for (int i = 0; i < 250; i++) {
      house.gatherings().make("meeting", "watch %d".formatted(i), "night watch");
    }
    var late = house.accounts().add("late/comer");
    house.accounts().putInto("night watch", late);
    var items = connector.earlierItems().orElseThrow();

    assertThat(items.of("night watch", 3)).hasSize(3);
    var lacking = items.strays("night watch", Optional.of(late), 1_000);
    assertThat(lacking).hasSize(250).noneMatch(EarlierItems.Stray::isNamed);
    assertThat(items.strays("night watch", Optional.empty(), 201)).hasSize(201);
    for (var stray : lacking) {
      items.name("night watch", stray.item().id(), late, true);
    }
    assertThat(items.strays("night watch", Optional.empty(), 1_000)).isEmpty();
    assertThat(house.gatherings().named("watch 7")).contains(early, late);
    assertThat(items.of("no such group", 3)).isEmpty();
    assertThat(items.strays("no such group", Optional.empty(), 3)).isEmpty();
  }

  private static List<Ownership.Item> items(Ownership ownership, String account)
      throws Unreachable {
    var items = new ArrayList<Ownership.Item>();
    ownership.items(account, items::add);
    return items;
  }

  @Test
  public void saysWhichWaysInAreOpenAndShutsThem() throws Unreachable {
    var account = house.accounts().add("traveller");
    house.use().openWay(account, "token", "backup script");
    house.use().openWay(account, "forwarding", "all mail to a private address");
    var ways = connector.waysIn().orElseThrow();

    assertThat(ways.open(account))
        .extracting(WaysIn.Way::kind)
        .containsExactly("token", "forwarding");
    var first = ways.open(account).getFirst().id();
    ways.shut(account, first);
    ways.shut(account, first);

    assertThat(house.use().openWays(account)).containsExactly("all mail to a private address");
  }

  @Test
  public void endsSessionsAndSaysWhenSomebodyWasThere() throws Unreachable {
    var account = house.accounts().add("visitor");
    var at = Instant.parse("2027-03-01T08:00:00Z");
    house.use().signIn(account, at);
    house.use().signIn(account, at);
    var sessions = connector.sessions().orElseThrow();
    assertThat(sessions.open(account)).isEqualTo(2);

    sessions.end(account);
    sessions.end(account);

    assertThat(house.use().sessionsOf(account)).isZero();
    assertThat(connector.activity().orElseThrow().of(account)).contains(new Activity.Use(at, at));
    assertThat(connector.activity().orElseThrow().of("nobody")).isEmpty();
  }

  @Test
  public void hasWhoeverWritesAnsweredUntilItIsTakenBack() throws Unreachable {
    var account = house.accounts().add("leaver");
    var replies = connector.replies().orElseThrow();
    var reply = new Reply("Gone", "Write to Bea.\n\nSkerrow", LocalDate.parse("2027-03-01"));
    assertThat(replies.of(account)).isEmpty();

    replies.set(account, reply);
    assertThat(replies.of(account)).contains(reply);

    replies.takeBack(account);
    replies.takeBack(account);
    assertThat(replies.of(account)).isEmpty();
  }

  @Test
  public void countsSeats() throws Unreachable {
    var account = house.accounts().add("sitter");
    house.use().addSeats("office", 10);
    house.use().takeSeat(account, "office");
    var seats = connector.seats().orElseThrow();

    assertThat(seats.all())
        .singleElement()
        .satisfies(seat -> assertThat(seat.total()).isEqualTo(10L))
        .satisfies(seat -> assertThat(seat.taken()).isEqualTo(1L));
    assertThat(seats.of(account)).containsExactly("office");
  }

  @Test
  public void aPartThatIsMissingIsNotKnownAndNotEmpty() throws Unreachable {
    assertThat(connector.capabilities().parts())
        .contains(Part.OWNERSHIP, Part.WAYS_IN, Part.SEATS, Part.GROUPS);
    house.use().offers(List.of("references"));

    connector.inspect();

    assertThat(connector.ownership()).isEmpty();
    assertThat(connector.waysIn()).isEmpty();
    assertThat(connector.references()).isPresent();
    house.use().offersAll();
    connector.inspect();
    assertThat(connector.ownership()).isPresent();
  }

  @Test
  public void aCompanionThatDoesNotAnswerIsSaidAndTheAccountsGoOn() throws Unreachable {
    house.faults().order(Faults.Kind.UNAVAILABLE, "/companion/v1", 1);

    var inspection = connector.inspect();

    assertThat(inspection.tried())
        .filteredOn(one -> !one.isWell())
        .singleElement()
        .satisfies(one -> assertThat(one.what()).contains("companion"))
        .satisfies(one -> assertThat(one.without()).isNotBlank());
    assertThat(connector.find("nobody")).isEmpty();
  }
}
