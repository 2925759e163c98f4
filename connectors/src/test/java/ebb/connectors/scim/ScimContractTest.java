package ebb.connectors.scim;

import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.core.application.Secrets;
import ebb.standins.MailHouse;
import ebb.standins.Manners;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Factory;

/** The contract, with applications that can do all there is, and with such as lack something. */
public class ScimContractTest extends ConnectorContract {
  private final String name;
  private final Consumer<Manners> manners;
  private final Map<String, String> more;
  private MailHouse house;
  private Connector connector;

  @Factory(dataProvider = "houses")
  public ScimContractTest(String name, Consumer<Manners> manners, Map<String, String> more) {
    this.name = name;
    this.manners = manners;
    this.more = more;
  }

  @DataProvider
  static Object[][] houses() {
    return new Object[][] {
      house("usual", manners -> {}, Map.of()),
      house("normalising", manners -> manners.normalises(true), Map.of()),
      house("strict", manners -> manners.strict(true), Map.of()),
      house("takes several at once", manners -> manners.bulk(true), Map.of()),
      house("only PUT", manners -> manners.patches(false), Map.of()),
      house("no filters", manners -> manners.filters(false), Map.of()),
      house("no versions", manners -> manners.versions(false), Map.of()),
      house("paged by cursor", manners -> manners.cursors(true).largestPage(25), Map.of()),
      house("groups know their members only", manners -> manners.showsGroups(false), Map.of()),
      house(
          "keeps what is deleted", manners -> manners.keepsDeleted(true), Map.of("delete", "soft")),
      house(
          "lacks nearly all",
          manners ->
              manners
                  .patches(false)
                  .filters(false)
                  .versions(false)
                  .showsGroups(false)
                  .normalises(true)
                  .largestPage(7),
          Map.of()),
    };
  }

  private static Object[] house(
      String name, Consumer<Manners> manners, Map<String, String> settings) {
    return new Object[] {name, manners, settings};
  }

  @BeforeClass
  void open() throws IOException {
    house = new MailHouse(0, "token");
    house.accounts().addGroup("watch");
    manners.accept(house.manners());
    connector = to(house.scim());
  }

  @AfterClass
  void close() {
    connector.close();
    house.close();
  }

  private Connector to(String address) {
    var settings = new TreeMap<>(Map.of("address", address, "network", "internal"));
    settings.putAll(more);
    return ScimConnector.open("house", settings, Secrets.token("token"), 8);
  }

  @Override
  protected Connector connector() {
    return connector;
  }

  @Override
  protected Connector toNobody() {
    return to("http://127.0.0.1:9");
  }

  @Override
  protected boolean keepsDeleted() {
    return more.containsKey("delete");
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

  @Override
  public String toString() {
    return name;
  }
}
