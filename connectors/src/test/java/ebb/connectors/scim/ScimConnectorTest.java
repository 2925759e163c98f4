package ebb.connectors.scim;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Ownership;
import ebb.core.application.Ownership.TransferState;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.standins.Faults;
import ebb.standins.MailHouse;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class ScimConnectorTest extends ConnectorContract {
  private MailHouse house;
  private Connector connector;

  @BeforeClass
  void open() throws IOException {
    house = new MailHouse(0, "token");
    house.accounts().addGroup("watch");
    connector =
        ScimConnector.open(
            "house",
            Map.of("address", house.address(), "companion", "/companion/v1"),
            new Secret("token"));
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

  @Override
  protected Connector connector() {
    return connector;
  }

  @Override
  protected Connector toNobody() {
    return ScimConnector.open(
        "nobody", Map.of("address", "http://127.0.0.1:9"), new Secret("token"));
  }

  @Override
  protected boolean canSignIn(String userName, String password) throws Exception {
    var body = "{\"userName\":\"%s\",\"password\":\"%s\"}".formatted(userName, password);
    var request =
        HttpRequest.newBuilder(URI.create(house.address() + "/sign-in"))
            .POST(BodyPublishers.ofString(body))
            .build();
    try (var client = HttpClient.newHttpClient()) {
      return client.send(request, BodyHandlers.discarding()).statusCode() == 200;
    }
  }

  @DataProvider
  Object[][] faults() {
    return new Object[][] {
      {Faults.Kind.UNAVAILABLE, Outcome.RetryLater.class},
      {Faults.Kind.TOO_MANY, Outcome.RetryLater.class},
      {Faults.Kind.HTML, Outcome.Unknown.class},
      {Faults.Kind.CUT_AFTER_WRITE, Outcome.Unknown.class},
    };
  }

  @Test(dataProvider = "faults")
  public void tellsWhatMayHaveHappenedFromWhatCannot(Faults.Kind fault, Class<?> expected) {
    house.faults().order(fault, "POST /scim/v2/Users", 1);

    var outcome = connector.apply(create("fault-" + fault));

    assertThat(outcome).isInstanceOf(expected);
    if (fault == Faults.Kind.TOO_MANY) {
      assertThat(((Outcome.RetryLater) outcome).after()).isEqualTo(Duration.ofSeconds(1));
    }
  }

  @Test
  public void findsWhatALostAnswerHadMade() throws Unreachable {
    house.faults().order(Faults.Kind.CUT_AFTER_WRITE, "POST /scim/v2/Users", 1);
    connector.apply(create("lost-answer"));

    assertThat(connector.findByExternalId("ebb-lost-answer")).isPresent();
    assertThat(connector.apply(create("lost-answer"))).isInstanceOf(Outcome.AlreadyInPlace.class);
  }

  @Test
  public void takesEqualityFromTheSchemas() throws Unreachable {
    var capabilities = connector.capabilities();

    assertThat(capabilities.equalityOf("displayName")).isEqualTo(Equality.IGNORE_CASE_AND_SPACE);
    assertThat(capabilities.equalityOf("employeeNumber")).isEqualTo(Equality.EXACT);
  }

  @Test
  public void keepsAddressesOfOtherTypesWhenOneChanges() {
    var made =
        (Outcome.Applied)
            connector.apply(
                create(
                    "addresses",
                    "emails.work",
                    "new@skerrow.example",
                    "emails.other",
                    "old@skerrow.example"));
    var id = made.account().orElseThrow().id();

    var changed =
        (Outcome.Applied)
            connector.apply(
                new Instruction.Update(
                    id, new TreeMap<>(Map.of("emails.work", List.of("newer@skerrow.example")))));

    assertThat(changed.account().orElseThrow().texts("emails.work"))
        .containsExactly("newer@skerrow.example");
    assertThat(changed.account().orElseThrow().texts("emails.other"))
        .containsExactly("old@skerrow.example");
  }

  @Test
  public void handsOverWhatAnAccountOwnsOnce() throws Unreachable {
    var from = ((Outcome.Applied) connector.apply(create("giver"))).account().orElseThrow().id();
    var to = ((Outcome.Applied) connector.apply(create("taker"))).account().orElseThrow().id();
    for (int i = 0; i < 450; i++) {
      house.items().add(from, "files", "note " + i, "text " + i, true);
    }
    var ownership = connector.ownership().orElseThrow();
    var owned = items(ownership, from);

    var first = ownership.startTransfer(from, to, "key-1");
    var second = ownership.startTransfer(from, to, "key-1");

    assertThat(second).isEqualTo(first);
    assertThat(ownership.transfer(first.id()).state()).isEqualTo(TransferState.DONE);
    assertThat(owned).hasSize(450);
    assertThat(items(ownership, from)).isEmpty();
    assertThat(items(ownership, to)).isEqualTo(owned);
  }

  @Test
  public void saysWhoStillRefersToAnAccount() throws Unreachable {
    var boss = ((Outcome.Applied) connector.apply(create("boss"))).account().orElseThrow().id();
    connector.apply(create("report", "manager", boss, "displayName", "Ada Finch"));

    assertThat(connector.references().orElseThrow().to(boss))
        .singleElement()
        .satisfies(reference -> assertThat(reference.what()).isEqualTo("manager of Ada Finch"));
  }

  @Test
  public void aWrongTokenIsSaidAndWaits() {
    try (var stranger =
        ScimConnector.open("house", Map.of("address", house.address()), new Secret("wrong"))) {
      assertThat(stranger.apply(create("stranger")))
          .isInstanceOfSatisfying(
              Outcome.RetryLater.class,
              later -> assertThat(later.problem().code()).isEqualTo("application-not-allowed"));
    }
  }

  private static List<Ownership.Item> items(Ownership ownership, String account)
      throws Unreachable {
    var items = new ArrayList<Ownership.Item>();
    ownership.items(account, items::add);
    return items;
  }

  private static Instruction.Create create(String name, String... more) {
    var values = new TreeMap<>(Map.of("userName", List.of(name)));
    for (int i = 0; i < more.length; i += 2) {
      values.put(more[i], List.of(more[i + 1]));
    }
    return new Instruction.Create("ebb-" + name, true, values);
  }
}
