package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.standins.StaffDirectory;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The same contract against Debian's slapd, which the test starts and ends. */
public class SlapdTest extends ConnectorContract {
  private static final String CONFIGURATION =
      """
      include /etc/ldap/schema/core.schema
      include /etc/ldap/schema/cosine.schema
      include /etc/ldap/schema/inetorgperson.schema
      attributetype ( 1.3.6.1.4.1.55555.1.1 NAME 'loginAllowed' EQUALITY booleanMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.7 SINGLE-VALUE )
      attributetype ( 1.3.6.1.4.1.55555.1.2 NAME 'originKey' EQUALITY caseExactMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 SINGLE-VALUE )
      objectclass ( 1.3.6.1.4.1.55555.2.1 NAME 'skerrowPerson' SUP top AUXILIARY MAY ( loginAllowed $ originKey ) )
      pidfile %1$s/slapd.pid
      modulepath /usr/lib/ldap
      moduleload back_mdb
      moduleload refint
      access to dn.children="ou=people,dc=skerrow,dc=example" filter=(loginAllowed=FALSE) attrs=userPassword by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by * none
      access to attrs=userPassword by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by anonymous auth by * none
      access to * by dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" write by * read
      database mdb
      suffix "dc=skerrow,dc=example"
      rootdn "cn=root,dc=skerrow,dc=example"
      rootpw secret
      directory %1$s
      sizelimit 500
      limits dn.exact="cn=ebb,ou=services,dc=skerrow,dc=example" size.soft=100 size.hard=100 size.prtotal=unlimited
      index objectClass,originKey,entryUUID,uid,member,manager eq
      overlay refint
      refint_attributes manager member
      """;

  private Process slapd;
  private int port;
  private Connector connector;

  @BeforeClass
  void start() throws Exception {
    var folder =
        Files.createTempDirectory(Files.createDirectories(Path.of("target/slapd")), "db")
            .toAbsolutePath();
    var file = Files.writeString(folder.resolve("slapd.conf"), CONFIGURATION.formatted(folder));
    port = freePort();
    slapd =
        new ProcessBuilder(
                "/usr/sbin/slapd",
                "-d",
                "0",
                "-f",
                file.toString(),
                "-h",
                "ldap://127.0.0.1:" + port)
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("slapd.log").toFile())
            .start();
    fill();
    connector =
        LdapConnector.open("slapd", EmbeddedDirectoryTest.settings(port), new Secret("secret"));
  }

  private static int freePort() throws IOException {
    try (var socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    }
  }

  private void fill() throws Exception {
    try (var root = connect()) {
      root.bind("cn=root,dc=skerrow,dc=example", "secret");
      root.add(
          "dn: dc=skerrow,dc=example",
          "objectClass: dcObject",
          "objectClass: organization",
          "o: Skerrow Ferries",
          "dc: skerrow");
      for (var unit : new String[] {"people", "groups", "services"}) {
        root.add(
            "dn: ou=" + unit + ",dc=skerrow,dc=example",
            "objectClass: organizationalUnit",
            "ou: " + unit);
      }
      root.add(
          "dn: " + StaffDirectory.ADMIN,
          "objectClass: applicationProcess",
          "objectClass: simpleSecurityObject",
          "cn: ebb",
          "userPassword: secret");
      root.add(
          "dn: cn=watch," + StaffDirectory.GROUPS,
          "objectClass: groupOfNames",
          "cn: watch",
          "member: " + StaffDirectory.ADMIN);
    }
  }

  private LDAPConnection connect() throws InterruptedException {
    for (int i = 0; i < 100; i++) {
      try {
        return new LDAPConnection("127.0.0.1", port);
      } catch (LDAPException _) {
        Thread.sleep(100);
      }
    }
    throw new IllegalStateException("slapd did not start; its log is in target/slapd");
  }

  @AfterClass(alwaysRun = true)
  void stop() throws InterruptedException {
    if (connector != null) {
      connector.close();
    }
    slapd.destroy();
    slapd.waitFor();
  }

  @Override
  protected Connector connector() {
    return connector;
  }

  @Override
  protected Connector toNobody() {
    return LdapConnector.open("nobody", EmbeddedDirectoryTest.settings(9), new Secret("secret"));
  }

  @Override
  protected boolean canSignIn(String userName, String password) throws Exception {
    try (var connection = connect()) {
      connection.bind("uid=" + userName + "," + StaffDirectory.PEOPLE, password);
      return true;
    } catch (LDAPException _) {
      return false;
    }
  }

  @Test
  public void takesEqualityFromTheMatchingRules() throws Unreachable {
    assertThat(connector.capabilities().equality())
        .containsAllEntriesOf(
            Map.of(
                "title",
                Equality.IGNORE_CASE_AND_SPACE,
                "phoneNumbers.mobile",
                Equality.TELEPHONE));
  }
}
