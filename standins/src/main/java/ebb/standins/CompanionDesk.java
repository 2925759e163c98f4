package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;

/** Answers requests of the companion interface. */
final class CompanionDesk {
  private final MailAccounts accounts;
  private final MailItems items;
  private final MailUse use;
  private final MailGatherings gatherings;
  private final BooleanSupplier losesOne;

  /**
   * @param losesOne whether the transfer that is begun loses something
   */
  CompanionDesk(
      MailAccounts accounts,
      MailItems items,
      MailUse use,
      MailGatherings gatherings,
      BooleanSupplier losesOne) {
    this.accounts = accounts;
    this.items = items;
    this.use = use;
    this.gatherings = gatherings;
    this.losesOne = losesOne;
  }

  /**
   * @param path after "/companion/v1"
   * @param key of a request that may be sent twice; null for none
   */
  Reply answer(
      String method, List<String> path, Map<String, String> query, JsonNode sent, String key)
      throws ScimException {
    return switch (path.isEmpty() ? "" : path.getFirst()) {
      case "" -> Reply.ok(use.parts());
      case "seats" ->
          path.size() < 3
              ? Reply.ok(use.seats())
              : Reply.ok(
                  use.takers(
                      path.get(1),
                      query.getOrDefault("after", ""),
                      Integer.parseInt(query.getOrDefault("limit", "100"))));
      case "transfers" ->
          method.equals("POST")
              ? Reply.ok(items.transfer(sent, key, losesOne.getAsBoolean()))
              : Reply.ok(items.transferState(path.get(1)));
      case "accounts" ->
          path.size() < 3 ? nothing(path) : account(method, path.get(1), path, query, sent);
      case "groups" -> path.size() < 3 ? nothing(path) : group(method, path.get(1), path, query);
      default -> nothing(path);
    };
  }

  private Reply group(String method, String group, List<String> path, Map<String, String> query) {
    var limit = Integer.parseInt(query.getOrDefault("limit", "100"));
    if (path.get(2).equals("strays")) {
      var after = query.getOrDefault("after", "");
      return Reply.ok(
          gatherings.strays(
              group, query.get("account"), after.isEmpty() ? 0 : Integer.parseInt(after), limit));
    }
    if (path.size() == 3) {
      return Reply.ok(gatherings.page(group, limit));
    }
    return path.size() == 6
            && gatherings.name(group, path.get(3), path.get(5), method.equals("PUT"))
        ? Reply.nothing()
        : nothing(path);
  }

  private Reply account(
      String method, String account, List<String> path, Map<String, String> query, JsonNode sent)
      throws ScimException {
    accounts.get("User", account);
    if (method.equals("PUT") && path.get(2).equals("reply")) {
      use.answer(account, sent);
      return Reply.nothing();
    }
    if (method.equals("PUT")) {
      return sit(account, path);
    }
    if (method.equals("DELETE")) {
      switch (path.get(2)) {
        case "seats" -> use.rise(account, path.get(3));
        case "ways-in" -> use.shut(account, path.get(3));
        case "sessions" -> use.endSessions(account);
        case "reply" -> use.answerNoMore(account);
        default -> {
          return nothing(path);
        }
      }
      return Reply.nothing();
    }
    return switch (path.get(2)) {
      case "items" ->
          Reply.ok(
              items.page(
                  account,
                  Integer.parseInt(query.getOrDefault("after", "0")),
                  Integer.parseInt(query.getOrDefault("limit", "100"))));
      case "references" -> Reply.ok(accounts.references(account));
      case "ways-in" -> Reply.ok(use.waysInto(account));
      case "sessions" -> Reply.ok(use.sessions(account));
      case "activity" -> Reply.ok(use.activity(account));
      case "seats" -> Reply.ok(use.seatsOf(account));
      case "reply" ->
          use.answerOf(account) == null ? nothing(path) : Reply.ok(use.answerOf(account));
      default -> nothing(path);
    };
  }

  private Reply sit(String account, List<String> path) {
    if (!path.get(2).equals("seats") || !use.has(path.get(3))) {
      return nothing(path);
    }
    return use.sit(account, path.get(3))
        ? Reply.nothing()
        : Reply.error(409, "No seat " + path.get(3) + " is left");
  }

  private static Reply nothing(List<String> path) {
    return Reply.error(404, "There is nothing at " + path);
  }
}
