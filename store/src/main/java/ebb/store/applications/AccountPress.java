package ebb.store.applications;

import ebb.core.application.ObservedAccount;
import ebb.core.imports.Print;
import java.util.Collection;

/** Prints of accounts: those that look the same have the same. Not for several threads. */
public final class AccountPress {
  private final Print.Press press = new Print.Press();

  public Print of(ObservedAccount account) {
    press.begin(account.usable() ? 1 : 0).put(account.id());
    var origin = account.externalId();
    press.put(origin == null ? 0 : 1).put(origin == null ? "" : origin);
    press.put(account.values().size());
    account
        .values()
        .forEach(
            (attribute, texts) -> {
              press.put(attribute);
              all(texts);
            });
    all(account.groups());
    all(account.seats());
    return press.end();
  }

  private void all(Collection<String> texts) {
    press.put(texts.size());
    texts.forEach(press::put);
  }
}
