package ebb.connectors.seats;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.companion.CompanionClient;
import ebb.connectors.companion.Joined;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.Lines;
import ebb.connectors.scim.ScimConnector;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Part;
import ebb.core.application.Secrets;
import ebb.standins.MailHouse;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whatever stands for a seat in an application: it is taken, seen and freed in the same way. */
public class SeatedTest {
  private static final Secrets SECRETS = Secrets.token("token");

  private MailHouse house;

  @BeforeMethod
  void open() throws Exception {
    house = new MailHouse(0, "token");
    house.accounts().addGroup("Staff licence");
    house.use().addSeats("Staff licence", 2);
    house.use().addSeats("standard", 250);
  }

  @AfterMethod
  void close() {
    house.close();
  }

  @DataProvider
  Object[][] ways() {
    return new Object[][] {
      {Map.of("seats", "companion", "seat.standard", "Staff licence")},
      {Map.of("seats", "group", "seat.standard", "Staff licence")},
      {Map.of("seats", "entitlements", "seat.standard", "Staff licence")},
      {Map.of("seats", "userType", "seat.standard", "Staff licence")},
      {Map.of("seats", "entitlements")},
    };
  }

  @Test(dataProvider = "ways")
  public void aSeatIsTakenSeenAndFreed(Map<String, String> settings) throws Exception {
    try (var connector = connector(settings)) {
      assertThat(connector.inspect().capabilities().has(Part.SEATS)).isTrue();
      var id = account(connector, "ida");
      account(connector, "per");

      var taken = connector.apply(new Instruction.TakeSeat(id, "standard"));

      assertThat(seen(taken).seats()).containsExactly("standard");
      assertThat(seen(connector.apply(new Instruction.TakeSeat(id, "standard"))).seats())
          .as("twice is once")
          .containsExactly("standard");
      assertThat(connector.find(id).orElseThrow().seats()).containsExactly("standard");
      assertThat(seats(connector)).containsOnly(Map.entry("ida", Set.of("standard")));

      var freed = connector.apply(new Instruction.FreeSeat(id, "standard"));
      assertThat(seen(freed).seats()).isEmpty();
      assertThat(connector.find(id).orElseThrow().seats()).isEmpty();
      assertThat(seats(connector)).isEmpty();
    }
  }

  @Test
  public void whereNoSeatIsLeftThatIsSaid() throws Exception {
    try (var connector = connector(Map.of("seat.standard", "Staff licence"))) {
      for (var name : List.of("ida", "per")) {
        connector.apply(new Instruction.TakeSeat(account(connector, name), "standard"));
      }
      var third = account(connector, "sol");

      var outcome = connector.apply(new Instruction.TakeSeat(third, "standard"));

      assertThat(((Outcome.Refused) outcome).problem().code()).isEqualTo("no-seat-left");
      assertThat(connector.find(third).orElseThrow().seats()).isEmpty();
    }
  }

  @Test
  public void allWhoTakeASeatAreFoundOverManyPages() throws Exception {
    try (var connector = connector(Map.of())) {
      for (int i = 0; i < 230; i++) {
        house.use().takeSeat(account(connector, "person-" + i), "standard");
      }

      assertThat(seats(connector)).hasSize(230);
    }
  }

  private Connector connector(Map<String, String> settings) {
    var all = new HashMap<>(settings);
    all.put("address", house.scim());
    all.put("companion", house.companion());
    all.put("network", "internal");
    return Seated.over(
        new Joined(
            ScimConnector.open("house", all, SECRETS, 4),
            new CompanionClient(new JsonHttp(Lines.companion("house", all, SECRETS, 4)))),
        all);
  }

  private static String account(Connector connector, String name) {
    var values = new TreeMap<String, List<String>>();
    values.put("userName", List.of(name));
    return seen(connector.apply(new Instruction.Create("ebb-" + name, true, values))).id();
  }

  private static ObservedAccount seen(Outcome outcome) {
    return switch (outcome) {
      case Outcome.Applied(var account) -> account.orElseThrow();
      case Outcome.AlreadyInPlace(var account) -> account.orElseThrow();
      default -> throw new AssertionError(outcome);
    };
  }

  /** Who takes any seat. */
  private static Map<String, Set<String>> seats(Connector connector) throws Exception {
    var seats = new HashMap<String, Set<String>>();
    connector.readAll(
        account -> {
          if (!account.seats().isEmpty()) {
            seats.put(account.texts("userName").getFirst(), new HashSet<>(account.seats()));
          }
        });
    return seats;
  }
}
