package ebb.system;

import ebb.demo.Client;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;

/** A service of a test class's own, with the usual applications and rules, and nobody yet. */
abstract class WithService {
  protected Stage stage;
  protected Client client;
  protected Lists lists;

  /** Of the service, beyond the usual, as in ebb.zone=Europe/Oslo. */
  String[] settings() {
    return new String[0];
  }

  /** Before what a test class itself begins with. */
  @BeforeClass
  public void startService() throws Exception {
    stage = Services.start(settings());
    client = new Client(stage.url(), stage.token());
    lists = new Lists(stage, client);
    SetUp.run(client, stage);
  }

  @AfterClass(alwaysRun = true)
  public void stopService() throws Exception {
    stage.close();
  }
}
