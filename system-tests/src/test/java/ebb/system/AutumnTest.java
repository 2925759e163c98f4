package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.concurrent.atomic.AtomicInteger;
import org.testng.annotations.Test;

/**
 * The night on which clocks go back, in a zone other than the machine's: last days end when they
 * end for each person, and what is due in the hour that comes twice is done once.
 */
public class AutumnTest extends WithService {
  private static final String LAST_DAY = "2027-10-31";

  @Override
  String[] settings() {
    return new String[] {"ebb.zone=Europe/Oslo"};
  }

  /** Each step goes on from where the one before left off: the clock only goes forward. */
  @Test
  public void lastDaysEndInEverybodysZoneAndTheDoubledHourIsOneHour() throws Exception {
    bring("Oslo", null);
    bring("York", "America/New_York");
    bring("Tokyo", "Asia/Tokyo");
    feedAtHalfPastTwo();

    // It is the last day in Tokyo, where it ends first; there are no summer hours.
    at("2027-10-31T14:59:00Z");
    assertThat(isActive("Tokyo")).isTrue();
    at("2027-10-31T15:01:00Z");
    assertThat(isActive("Tokyo")).isFalse();

    // Midnight in Oslo is an hour later than the day before.
    at("2027-10-31T22:59:00Z");
    assertThat(isActive("Oslo")).as("it is still the last day").isTrue();
    at("2027-10-31T23:01:00Z");
    assertThat(isActive("Oslo")).isFalse();
    assertThat(client.today()).isEqualTo("2027-11-01");

    // New York goes back a week later.
    at("2027-11-01T03:59:00Z");
    assertThat(isActive("York")).isTrue();
    at("2027-11-01T04:01:00Z");
    assertThat(isActive("York")).isFalse();
  }

  private void feedAtHalfPastTwo() throws Exception {
    var asked = new AtomicInteger();
    var server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/people",
        exchange -> {
          try (exchange) {
            asked.incrementAndGet();
            var bytes =
                "[{\"no\":\"a1\",\"family\":\"Vik\",\"given\":\"Per\",\"kind\":\"contractor\"}]"
                    .getBytes(StandardCharsets.UTF_8);
            exchange.sendResponseHeaders(200, bytes.length);
            exchange.getResponseBody().write(bytes);
          }
        });
    server.start();
    try {
      lists.source(
          "yard", 50, "no", "family=name.familyName", "given=name.givenName", "kind=userType");
      client.done(
          "feeds",
          "put",
          "yard",
          "--kind=http",
          "--set=address=http://127.0.0.1:%d/people".formatted(server.getAddress().getPort()),
          "--secret-file=" + lists.file("secret", "pass"),
          "--at=0 30 2 * * *");
      at("2027-10-30T20:00:00Z");
      var on = client.json("feeds", "on", "yard");
      assertThat(Instant.parse(on.path("nextAt").asString()))
          .as("half past two by summer time")
          .isEqualTo("2027-10-31T00:30:00Z");

      at("2027-10-31T00:31:00Z");
      waitUntil("the feed is read", () -> asked.get() == 1);
      client.settle();
      assertThat(Instant.parse(client.json("feeds", "show", "yard").path("nextAt").asString()))
          .as("the next time is the next day's")
          .isEqualTo("2027-11-01T01:30:00Z");
      at("2027-10-31T01:35:00Z");
      assertThat(asked).as("half past two comes a second time").hasValue(1);
      client.done("feeds", "pause", "yard");
    } finally {
      server.stop(0);
    }
  }

  private void bring(String family, String zone) throws Exception {
    var person =
        new java.util.ArrayList<>(
            java.util.List.of(
                "people",
                "add",
                "name.givenName=Ida",
                "name.familyName=" + family,
                "userType=employee",
                "emails.home=ida@post.example",
                "endDate=" + LAST_DAY,
                "--release"));
    if (zone != null) {
      person.add("timezone=" + zone);
    }
    client.done(person.toArray(String[]::new));
    client.settle();
    assertThat(isActive(family)).isTrue();
  }

  private void at(String instant) throws Exception {
    client.done("clock", "--to=" + instant);
    client.settle();
  }

  private boolean isActive(String family) throws Exception {
    var login = "ida." + family.toLowerCase(java.util.Locale.ROOT);
    var entry = stage.directory().person(login);
    var inHouse = stage.mailHouse().accounts().byName(login).path("active").asBoolean();
    assertThat("TRUE".equals(entry.getAttributeValue("loginAllowed")))
        .as("alike in both applications")
        .isEqualTo(inHouse);
    return inHouse;
  }
}
