package ebb.service.web;

import ebb.api.AccountView;
import ebb.api.LeftAloneView;
import ebb.store.applications.Account;
import ebb.store.applications.LeftAlone;
import java.util.List;

/** Accounts as they are shown. */
public final class AccountViews {
  public static AccountView view(Account account) {
    return view(account, null);
  }

  /**
   * @param displayName of the person; null where it is known or there is none
   */
  public static AccountView view(Account account, String displayName) {
    return new AccountView(
        account.id(),
        account.application(),
        account.level().word(),
        name(account),
        account.person() == null ? null : account.person().value(),
        displayName,
        List.copyOf(account.observed().groups()),
        List.copyOf(account.observed().seats()),
        account.closing(),
        leftAlone(account.leftAlone()),
        account.strippedAt(),
        account.seenAt());
  }

  /** Null stays null. */
  public static LeftAloneView leftAlone(LeftAlone left) {
    return left == null ? null : new LeftAloneView(left.why(), left.by(), left.at());
  }

  /** What the account is called in its application. */
  public static String name(Account account) {
    var name = account.observed().texts("userName");
    return name.isEmpty() ? account.observed().id() : name.getFirst();
  }

  private AccountViews() {}
}
