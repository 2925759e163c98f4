package ebb.service.dormancy;

import ebb.store.applications.Account;
import ebb.store.people.StoredPerson;

/** Accounts that stay as they are, however long nobody signs in. */
final class Exempt {
  /**
   * @param owner null if it is nobody's
   * @return null if nothing says so
   */
  static String why(Account account, StoredPerson owner) {
    if (account.leftAlone() != null) {
      return "left as it is: " + account.leftAlone().why();
    }
    if (owner == null) {
      return "nobody's: say whose it is, or that it is technical";
    }
    return owner.person().isTechnical() ? "a technical identity" : null;
  }

  private Exempt() {}
}
