package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Unreachable;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The same contract against Debian's slapd, with an attribute that suspends. */
public class SlapdTest extends ConnectorContract {
  private Slapd slapd;
  private Connector connector;

  @BeforeClass
  void start() throws Exception {
    slapd = Slapd.start("moduleload refint", "overlay refint\nrefint_attributes manager member");
    connector = EmbeddedDirectoryTest.open("slapd", EmbeddedDirectoryTest.settings(slapd.port()));
  }

  @AfterClass(alwaysRun = true)
  void stop() throws InterruptedException {
    if (connector != null) {
      connector.close();
    }
    slapd.close();
  }

  @Override
  protected Connector connector() {
    return connector;
  }

  @Override
  protected Connector toNobody() {
    return EmbeddedDirectoryTest.open("nobody", EmbeddedDirectoryTest.settings(9));
  }

  @Override
  protected boolean canSignIn(String userName, String password) throws Exception {
    return slapd.canBind("uid=" + userName + "," + StaffDirectory.PEOPLE, password);
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
