package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.connectors.Keys;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import ebb.standins.Slapd;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A slapd that takes a password over an encrypted line only. */
public class SecureDirectoryTest {
  private Keys keys;
  private Path folder;
  private Slapd slapd;

  @BeforeClass
  void start() throws Exception {
    folder = Files.createTempDirectory(Path.of("target"), "keys").toAbsolutePath();
    keys = new Keys(folder);
    keys.make("slapd", "san=ip:127.0.0.1");
    keys.make("elsewhere", "san=dns:elsewhere.example");
    keys.make("stranger", "san=ip:127.0.0.1");
    slapd = Slapd.start(shows("slapd"), "");
    slapd.configure(shows("slapd") + "security simple_bind=112\n", "");
  }

  @AfterClass(alwaysRun = true)
  void stop() throws Exception {
    slapd.close();
  }

  private String shows(String name) throws Exception {
    var certificate = Files.writeString(folder.resolve(name + ".crt"), keys.certificate(name));
    var key = Files.writeString(folder.resolve(name + ".key"), keys.privateKey(name));
    return "TLSCertificateFile %s\nTLSCertificateKeyFile %s\n".formatted(certificate, key);
  }

  @DataProvider
  Object[][] lines() {
    return new Object[][] {{"starttls"}, {"ldaps"}};
  }

  @Test(dataProvider = "lines")
  public void overAnEncryptedLineAllGoesThrough(String security) throws Exception {
    try (var connector = open(security, "slapd")) {
      var values =
          new TreeMap<>(
              Map.of(
                  "userName", List.of("over " + security),
                  "name.familyName", List.of("Holm"),
                  "name.formatted", List.of("Ida Holm")));

      assertThat(connector.apply(new Instruction.Create("ebb-" + security, true, values)))
          .isInstanceOf(Outcome.Applied.class);
      assertThat(connector.inspect().tried()).allMatch(one -> one.isWell());
    }
  }

  @Test
  public void overAPlainLineTheDirectorySaysWhatItWants() throws Exception {
    try (var connector = open("none", "slapd")) {
      assertThat(problem(connector).code()).isEqualTo("ldap-confidentiality-required");
      assertThat(problem(connector).remedy()).contains("starttls");
    }
  }

  @Test(dataProvider = "lines")
  public void aCertificateForWhomNobodyVouchesIsSaid(String security) throws Exception {
    try (var connector = open(security, "stranger")) {
      assertThat(problem(connector).code()).isEqualTo("certificate-not-trusted");
    }
  }

  @Test(dataProvider = "lines")
  public void aCertificateOfAnotherNameIsSaid(String security) throws Exception {
    try (var other = Slapd.start(shows("elsewhere"), "");
        var connector = open(other, security, "elsewhere")) {
      assertThat(problem(connector).code()).isEqualTo("certificate-of-another");
    }
  }

  private Connector open(String security, String trusted) throws Exception {
    return open(slapd, security, trusted);
  }

  private Connector open(Slapd server, String security, String trusted) throws Exception {
    var settings =
        new HashMap<>(
            EmbeddedDirectoryTest.settings(
                security.equals("ldaps") ? server.securePort() : server.port()));
    settings.put("security", security);
    settings.put("trusted", keys.certificate(trusted));
    return EmbeddedDirectoryTest.open("slapd", settings);
  }

  private static Problem problem(Connector connector) {
    return catchThrowableOfType(Unreachable.class, () -> connector.readAll(_ -> {})).problem();
  }
}
