package ebb.service.connections;

import ebb.core.application.Application;
import ebb.core.departure.Removal.Ending;

/** What is said of applications: what accounts there come to, and how long they can be restored. */
public final class Endings {
  public static Ending of(Application application) {
    return Ending.of(application.settings().get(SettingsCheck.REMOVAL));
  }

  /** Days for which an account can be restored once all its gates are open. */
  public static int restoreDays(Application application) {
    return Integer.parseInt(application.settings().getOrDefault(SettingsCheck.RESTORE_DAYS, "0"));
  }

  private Endings() {}
}
