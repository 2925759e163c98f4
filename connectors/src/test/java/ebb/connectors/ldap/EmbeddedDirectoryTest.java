package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import ebb.standins.StaffDirectory;
import java.util.HashMap;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

public class EmbeddedDirectoryTest extends ConnectorContract {
  private StaffDirectory directory;
  private Connector connector;

  @BeforeClass
  void open() throws Exception {
    directory = new StaffDirectory(0, "secret");
    directory.addGroup("watch");
    connector = open("directory", settings(directory.port()));
  }

  @AfterClass
  void close() {
    connector.close();
    directory.close();
  }

  static Connector open(String name, Map<String, String> settings) {
    var secrets = new Secrets(Map.of(Secrets.TOKEN, new Secret("secret")));
    return LdapConnector.open(name, settings, secrets, LdapConnector.CALLS_AT_ONCE);
  }

  static Map<String, String> settings(int port) {
    return new HashMap<>(
        Map.of(
            "host",
            "127.0.0.1",
            "network",
            "internal",
            "port",
            Integer.toString(port),
            "bindDn",
            StaffDirectory.ADMIN,
            "people",
            StaffDirectory.PEOPLE,
            "groups",
            StaffDirectory.GROUPS,
            "objectClasses",
            "inetOrgPerson,skerrowPerson",
            "switchAttribute",
            "loginAllowed",
            "originAttribute",
            "originKey"));
  }

  @Override
  protected Connector connector() {
    return connector;
  }

  @Override
  protected Connector toNobody() {
    return open("nobody", settings(9));
  }

  @Override
  protected boolean canSignIn(String userName, String password) throws Exception {
    return directory.canSignIn(userName, password);
  }

  @Test
  public void takesEqualityFromTheMatchingRules() throws Unreachable {
    var capabilities = connector.capabilities();

    assertThat(capabilities.equalityOf("title")).isEqualTo(Equality.IGNORE_CASE_AND_SPACE);
    assertThat(capabilities.equalityOf("phoneNumbers.mobile")).isEqualTo(Equality.TELEPHONE);
  }
}
