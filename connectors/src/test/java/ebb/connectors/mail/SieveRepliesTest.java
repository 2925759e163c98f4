package ebb.connectors.mail;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.connectors.http.Network;
import ebb.connectors.http.Tls;
import ebb.core.application.Replies.Reply;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.standins.Dovecot;
import java.net.URI;
import java.time.Duration;
import java.time.LocalDate;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class SieveRepliesTest {
  private static final Reply REPLY =
      new Reply(
          "Ada \"Finch\" has left\\",
          "Please write to bea@skerrow.example.\n.A line that begins with a dot\n\nSkerrow Ferries",
          LocalDate.parse("2027-03-31"));

  private Dovecot dovecot;

  @BeforeClass
  void open() throws Exception {
    dovecot = Dovecot.start("");
  }

  @AfterClass(alwaysRun = true)
  void close() throws Exception {
    dovecot.close();
  }

  @Test
  public void aReplyIsSetShownReplacedAndTakenBack() throws Unreachable {
    var replies = replies(Dovecot.PASSWORD);
    assertThat(replies.of("ada")).isEmpty();

    replies.set("ada", REPLY);
    assertThat(replies.of("ada")).contains(REPLY);

    var other = new Reply("Gone", "Nobody reads this.", LocalDate.parse("2027-01-01"));
    replies.set("ada", other);
    assertThat(replies.of("ada")).contains(other);

    replies.takeBack("ada");
    replies.takeBack("ada");
    assertThat(replies.of("ada")).isEmpty();
  }

  @Test
  public void whatTheOwnerHadSetUpGoesOnAndRunsAgainAfterwards() throws Exception {
    try (var sieve = Sieve.of(server(Dovecot.PASSWORD), "bea")) {
      sieve.put("my own", "require \"fileinto\";\r\nfileinto \"Filed\";\r\n");
      sieve.activate("my own");
    }
    var replies = replies(Dovecot.PASSWORD);

    replies.set("bea", REPLY);
    replies.set("bea", REPLY);
    try (var sieve = Sieve.of(server(Dovecot.PASSWORD), "bea")) {
      assertThat(sieve.scripts())
          .containsExactlyInAnyOrder(
              new Sieve.Script("my own", false), new Sieve.Script(SieveReplies.NAME, true));
      assertThat(sieve.get(SieveReplies.NAME).orElseThrow())
          .contains("include :personal \"my own\";");
    }

    replies.takeBack("bea");
    try (var sieve = Sieve.of(server(Dovecot.PASSWORD), "bea")) {
      assertThat(sieve.scripts()).containsExactly(new Sieve.Script("my own", true));
    }
  }

  @Test
  public void whoMayNotSignInIsSaid() {
    assertThatThrownBy(() -> replies("guessed").of("cleo"))
        .isInstanceOfSatisfying(
            Unreachable.class,
            e -> assertThat(e.problem().code()).isEqualTo("mail-sign-in-refused"));
  }

  private SieveReplies replies(String password) {
    return new SieveReplies(server(password), login -> login);
  }

  private MailServer server(String password) {
    var address = URI.create(dovecot.sieve());
    return new MailServer(
        "house",
        address.getHost(),
        address.getPort(),
        MailServer.Security.NONE,
        Dovecot.MASTER,
        new Secret(password),
        Tls.USUAL,
        Network.INTERNAL,
        Duration.ofSeconds(10));
  }
}
