package ebb.connectors.http;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.connectors.Keys;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.standins.MailHouse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.net.ssl.SSLContext;
import org.apache.hc.core5.ssl.SSLContextBuilder;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Certificates that are right, and such as are not; made by the platform's own tool. */
public class SecureLinesTest {
  private static final String HERE = "san=ip:127.0.0.1";

  private Path folder;
  private Keys keys;

  @BeforeClass
  void makeKeys() throws Exception {
    folder = Files.createTempDirectory(Path.of("target"), "keys");
    keys = new Keys(folder);
    for (var name : List.of("house", "ebb", "stranger", "authority", "expired")) {
      keys.make(name, HERE);
    }
    keys.make("elsewhere", "san=dns:elsewhere.example");
    signExpired();
  }

  @Test
  public void eachSideShowsItselfAndIsTrusted() throws Exception {
    assertThat(status("house", "house", "ebb")).isEqualTo(200);
  }

  @Test
  public void aCertificateThatHasExpiredIsSaid() {
    assertThat(refusal("expired", "authority", "ebb")).isEqualTo("certificate-expired");
  }

  @Test
  public void aCertificateForWhomNobodyVouchesIsSaid() {
    assertThat(refusal("house", "stranger", "ebb")).isEqualTo("certificate-not-trusted");
  }

  @Test
  public void aCertificateOfAnotherNameIsSaid() {
    assertThat(refusal("elsewhere", "elsewhere", "ebb")).isEqualTo("certificate-of-another");
  }

  @Test
  public void anApplicationThatDoesNotTrustEbbIsSaid() {
    // Its refusal comes after the handshake (RFC 8446, 4.4.2.4), and may come as a cut line.
    assertThat(refusal("house", "house", "stranger")).isIn("secure-line-failed", "answer-lost");
  }

  @Test
  public void aKeyThatCannotBeReadIsSaidBeforeAnybodyIsCalled() throws Exception {
    var tls = new Tls("", keys.certificate("ebb"), new Secret("no key at all"));

    assertThatThrownBy(tls::context).isInstanceOf(GeneralSecurityException.class);
  }

  private int status(String house, String trusted, String own) throws Exception {
    try (var server = new MailHouse(0, "token", context(house));
        var http = line(server, trusted, own)) {
      return http.send("GET", "/Users?count=1", null, Map.of()).status();
    }
  }

  private String refusal(String house, String trusted, String own) {
    var codes = new ArrayList<String>();
    assertThatThrownBy(() -> status(house, trusted, own))
        .isInstanceOfSatisfying(
            NoAnswer.class,
            e -> {
              codes.add(e.problem().code());
              assertThat(e.outcome()).isInstanceOf(Outcome.RetryLater.class);
            });
    return codes.getFirst();
  }

  private JsonHttp line(MailHouse server, String trusted, String own) throws Exception {
    var settings =
        new HashMap<>(
            Map.of(
                "address", server.scim(),
                "network", "internal",
                "trusted", keys.certificate(trusted),
                "certificate", keys.certificate(own)));
    return new JsonHttp(
        Lines.of(
            "house",
            settings,
            new Secrets(
                Map.of("token", new Secret("token"), "key", new Secret(keys.privateKey(own)))),
            2));
  }

  /** A house that shows one key, and trusts Ebb's. */
  private SSLContext context(String name) throws Exception {
    var trusted = KeyStore.getInstance("PKCS12");
    trusted.load(null, Keys.PASSWORD);
    trusted.setCertificateEntry("ebb", keys.store("ebb").getCertificate("ebb"));
    return SSLContextBuilder.create()
        .loadKeyMaterial(keys.store(name), Keys.PASSWORD)
        .loadTrustMaterial(trusted, null)
        .build();
  }

  /** Whom one trusts by name is not asked how long: it takes somebody who signs. */
  private void signExpired() throws Exception {
    var asked = folder.resolve("asked").toString();
    var signed = folder.resolve("signed").toString();
    var authority = folder.resolve("authority.pem");
    Files.writeString(authority, keys.certificate("authority"));
    keys.tool("expired", "-certreq", "-file", asked);
    keys.tool(
        "authority",
        "-gencert",
        "-infile",
        asked,
        "-outfile",
        signed,
        "-ext",
        HERE,
        "-startdate",
        "-20d",
        "-validity",
        "10");
    keys.run(
        "expired",
        "-importcert",
        "-alias",
        "authority",
        "-file",
        authority.toString(),
        "-noprompt");
    keys.tool("expired", "-importcert", "-file", signed);
  }
}
