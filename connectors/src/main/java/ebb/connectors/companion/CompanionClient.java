package ebb.connectors.companion;

import ebb.connectors.http.JsonHttp;
import ebb.core.application.Ownership;
import ebb.core.application.References;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;

/** Speaks the companion interface of an application (docs/companion.yaml). */
public final class CompanionClient implements Ownership, References {
  private static final int PAGE = 200;

  private final JsonHttp http;
  private final String path;

  /**
   * @param path where the interface begins, as in "/companion/v1"
   */
  public CompanionClient(JsonHttp http, String path) {
    this.http = http;
    this.path = path;
  }

  @Override
  public void items(String accountId, Consumer<Item> each) throws Unreachable {
    var next = Optional.of("0");
    while (next.isPresent()) {
      var page =
          http.get(
              "%s/accounts/%s/items?after=%s&limit=%d"
                  .formatted(path, accountId, next.get(), PAGE));
      for (var item : page.path("items")) {
        each.accept(item(item));
      }
      next = Optional.of(page.path("next").asString("")).filter(text -> !text.isEmpty());
    }
  }

  @Override
  public Transfer startTransfer(String from, String to, String key) throws Unreachable {
    var body = JsonHttp.JSON.createObjectNode().put("from", from).put("to", to);
    return http.orUnreachable("POST", path + "/transfers", body, Map.of("Idempotency-Key", key))
        .map(CompanionClient::transfer)
        .orElseThrow(() -> notThere("transfers"));
  }

  @Override
  public Transfer transfer(String id) throws Unreachable {
    return transfer(http.get(path + "/transfers/" + id));
  }

  @Override
  public List<Reference> to(String accountId) throws Unreachable {
    return http.get("%s/accounts/%s/references".formatted(path, accountId))
        .path("references")
        .valueStream()
        .map(node -> new Reference(node.path("kind").asString(), node.path("what").asString()))
        .toList();
  }

  private static Item item(JsonNode item) {
    return new Item(
        item.path("id").asString(),
        item.path("kind").asString(),
        item.path("name").asString(),
        item.path("bytes").asLong(),
        item.path("sha256").asString(),
        item.path("transferable").asBoolean());
  }

  private static Transfer transfer(JsonNode node) {
    return new Transfer(
        node.path("id").asString(),
        TransferState.valueOf(node.path("state").asString().toUpperCase(Locale.ROOT)),
        node.path("detail").asString(""));
  }

  private Unreachable notThere(String part) {
    return new Unreachable(
        new Problem(
            "companion-part-missing",
            "The application has no %s at %s.".formatted(part, path),
            "It does not offer this part of the companion interface.",
            "Correct the setting companion, or take it out.",
            null),
        null);
  }
}
