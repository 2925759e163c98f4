package ebb.connectors.http;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.standins.Faults.Kind;
import ebb.standins.MailHouse;
import java.net.InetAddress;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Ways to show an application who Ebb is, and whom Ebb does not speak with. */
public class LinesTest {
  private static final Map<String, String> NONE = Map.of();
  private static final String USERS = "/Users?count=1";

  private MailHouse house;

  @BeforeMethod
  void open() throws Exception {
    house = new MailHouse(0, "word");
  }

  @AfterMethod
  void close() {
    house.close();
  }

  @Test
  public void aNameAndPasswordLetEbbIn() throws Exception {
    try (var http = line(Map.of("user", "ebb"), "word")) {
      assertThat(http.send("GET", USERS, null, NONE).status()).isEqualTo(200);
    }
    try (var http = line(Map.of("user", "ebb"), "wrong")) {
      assertThat(http.send("GET", USERS, null, NONE).status()).isEqualTo(401);
    }
  }

  @Test
  public void aTokenIsAskedForOnceAndUsedUntilItEnds() throws Exception {
    try (var http = client("word")) {
      for (int i = 0; i < 5; i++) {
        assertThat(http.send("GET", USERS, null, NONE).status()).isEqualTo(200);
      }
    }
    assertThat(house.doors().issued()).isEqualTo(1);
  }

  @Test
  public void aTokenThatEndsInMidRunIsRenewedAndNothingIsSentTwice() throws Exception {
    house.doors().life(Duration.ofHours(1));
    try (var http = client("word")) {
      http.send("GET", USERS, null, NONE);
      house.doors().forgetTokens();

      var answer =
          http.send(
              "POST", "/Users", JsonHttp.JSON.createObjectNode().put("userName", "one"), NONE);

      assertThat(answer.status()).isEqualTo(201);
    }
    assertThat(house.doors().issued()).isEqualTo(2);
    assertThat(house.writes()).containsExactly("POST /scim/v2/Users");
  }

  @Test
  public void aClientThatIsRefusedATokenIsToldSoAndNothingWasSent() {
    try (var http = client("wrong")) {
      assertThatThrownBy(() -> http.send("POST", "/Users", JsonHttp.JSON.createObjectNode(), NONE))
          .isInstanceOfSatisfying(
              NoAnswer.class,
              e -> {
                assertThat(e.problem().code()).isEqualTo("token-refused");
                assertThat(e.problem().why()).contains("invalid_client");
                assertThat(e.outcome()).isInstanceOf(Outcome.RetryLater.class);
              });
    }
  }

  @Test
  public void aTokenServerThatIsDownIsSaidAndNothingWasSent() {
    house.faults().order(Kind.CUT_BEFORE_WRITE, "/oauth/token", 1);
    try (var http = client("word")) {
      assertThatThrownBy(() -> http.send("POST", "/Users", null, NONE))
          .isInstanceOfSatisfying(
              NoAnswer.class, e -> assertThat(e.outcome()).isInstanceOf(Outcome.RetryLater.class));
    }
  }

  @Test
  public void anAddressWithinTheOwnNetworkIsCalledOnlyIfThatIsMeant() {
    try (var http =
        new JsonHttp(
            Lines.of("house", Map.of("address", house.scim()), Secrets.token("word"), 2))) {
      assertThatThrownBy(() -> http.send("GET", USERS, null, NONE))
          .isInstanceOfSatisfying(
              NoAnswer.class, e -> assertThat(e.problem().code()).isEqualTo("address-internal"));
    }
  }

  @DataProvider
  Object[][] addresses() {
    return new Object[][] {
      {"127.0.0.1", false, true},
      {"::1", false, true},
      {"10.1.2.3", false, true},
      {"172.16.0.1", false, true},
      {"192.168.1.1", false, true},
      {"100.64.0.1", false, true},
      {"100.128.0.1", true, true},
      {"0.0.0.0", false, true},
      {"fd00::1", false, true},
      {"::ffff:10.0.0.1", false, true},
      {"169.254.169.254", false, false},
      {"fe80::1", false, false},
      {"224.0.0.1", false, false},
      {"203.0.113.7", true, true},
      {"2001:db8::7", true, true},
    };
  }

  @Test(dataProvider = "addresses")
  public void knowsWhichAddressesAreInternal(String address, boolean inPublic, boolean internal)
      throws Exception {
    var one = InetAddress.getByName(address);

    assertThat(Network.PUBLIC.allows(one)).isEqualTo(inPublic);
    assertThat(Network.INTERNAL.allows(one)).isEqualTo(internal);
  }

  private JsonHttp client(String secret) {
    return line(
        Map.of("tokenAddress", house.address() + "/oauth/token", "clientId", "ebb"), secret);
  }

  private JsonHttp line(Map<String, String> more, String secret) {
    var settings = new HashMap<>(Map.of("address", house.scim(), "network", "internal"));
    settings.putAll(more);
    return new JsonHttp(
        Lines.of("house", settings, new Secrets(Map.of("token", new Secret(secret))), 2));
  }
}
