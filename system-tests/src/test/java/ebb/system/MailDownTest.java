package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.standins.Ports;
import ebb.standins.PostBox;
import java.util.List;
import org.testng.annotations.Test;

/** The mail server is away for a while. */
public class MailDownTest extends WithService {
  private static final int PEOPLE = 5;

  @Override
  String[] settings() {
    return new String[] {"spring.mail.port=" + port()};
  }

  private int port;

  /** Nobody listens there at first. */
  private int port() {
    if (port == 0) {
      try {
        port = Ports.free();
      } catch (java.io.IOException e) {
        throw new java.io.UncheckedIOException(e);
      }
    }
    return port;
  }

  @Test
  public void accountsAreMadeAndTheirLettersComeOnceWhenTheMailServerIsBack() throws Exception {
    lists.source(
        "crew",
        100,
        "No",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Mail=emails.home");
    var rows = new java.util.ArrayList<String>();
    for (int i = 0; i < PEOPLE; i++) {
      var letter = (char) ('a' + i);
      rows.add("K%d,Gull%s,Ida,employee,ida.%2$s@post.example".formatted(i, letter));
    }
    var made = lists.bring("crew", "No,Family,Given,Kind,Mail", rows);
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=a trial");

    assertThat(stage.mailHouse().accounts().count()).as("nothing else waits").isEqualTo(PEOPLE);
    waitUntil("each was tried", () -> tried() == PEOPLE);
    assertThat(client.json("now").path("noticesWaiting").asLong()).isEqualTo(PEOPLE);
    assertThat(health()).as("the service is not unwell for it").isEqualTo(200);

    try (var box = new PostBox(port())) {
      waitUntil("all letters came", () -> box.letters().size() >= PEOPLE);
      client.settle();
      assertThat(box.letters()).hasSize(PEOPLE);
      assertThat(box.letters().stream().map(PostBox.Letter::to))
          .as("one each")
          .doesNotHaveDuplicates();
    }
    assertThat(client.json("now").path("noticesWaiting").asLong()).isZero();
  }

  private long tried() {
    return List.copyOf(
            client
                .json("notices", "list", "--limit=100")
                .path("items")
                .valueStream()
                .filter(notice -> notice.path("problem").isObject())
                .toList())
        .size();
  }

  private int health() throws Exception {
    return new Rest(stage.url(), null).get("/actuator/health").status();
  }
}
