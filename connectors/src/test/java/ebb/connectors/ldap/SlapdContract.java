package ebb.connectors.ldap;

import ebb.connectors.ConnectorContract;
import ebb.core.application.Connector;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import org.testng.annotations.AfterClass;

/** The contract against Debian's slapd, as each test sets it up. */
abstract class SlapdContract extends ConnectorContract {
  protected Slapd slapd;
  protected Connector connector;

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
}
