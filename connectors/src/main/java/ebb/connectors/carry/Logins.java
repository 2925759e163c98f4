package ebb.connectors.carry;

import ebb.core.application.Connector;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.List;

/** By what name the owner of an account is known to a server that stands beside its application. */
@FunctionalInterface
public interface Logins {
  /**
   * @throws Unreachable also if there is no such account, or it has no such name
   */
  String of(String accountId) throws Unreachable;

  /**
   * @param attribute of accounts that holds the name
   */
  static Logins by(Connector accounts, String attribute) {
    return accountId ->
        accounts
            .find(accountId)
            .map(account -> account.values().getOrDefault(attribute, List.of()))
            .flatMap(values -> values.stream().findFirst())
            .orElseThrow(() -> new Unreachable(noLogin(accountId, attribute), null));
  }

  private static Problem noLogin(String accountId, String attribute) {
    return new Problem(
        "login-unknown",
        "Account %s has no %s.".formatted(accountId, attribute),
        "By that name its owner is known to the server that holds what it owns.",
        "Fill it in the rule, or name another attribute in the settings of the application.",
        null);
  }
}
