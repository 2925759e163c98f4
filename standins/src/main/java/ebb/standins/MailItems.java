package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What accounts of the mail and document house own, and how it goes from one to another. */
public final class MailItems {
  private record Item(String id, String kind, String name, byte[] content, boolean transferable) {}

  private final Map<String, List<Item>> owned = new LinkedHashMap<>();
  private final Map<String, JsonNode> transfers = new LinkedHashMap<>();
  private int numbers;

  /**
   * Gives an account something to own.
   *
   * @param transferable whether the companion interface can hand this kind over
   */
  public synchronized void add(
      String account, String kind, String name, String content, boolean transferable) {
    owned
        .computeIfAbsent(account, _ -> new ArrayList<>())
        .add(
            new Item(
                "item-" + ++numbers,
                kind,
                name,
                content.getBytes(StandardCharsets.UTF_8),
                transferable));
  }

  /** Names of what an account owns. */
  public synchronized List<String> names(String account) {
    return owned.getOrDefault(account, List.of()).stream().map(Item::name).toList();
  }

  synchronized JsonNode page(String account, int after, int limit) {
    var all = owned.getOrDefault(account, List.of());
    var answer = MailHouse.JSON.createObjectNode();
    var items = answer.putArray("items");
    all.stream()
        .skip(after)
        .limit(limit)
        .forEach(
            item ->
                items
                    .addObject()
                    .put("id", item.id())
                    .put("kind", item.kind())
                    .put("name", item.name())
                    .put("bytes", item.content().length)
                    .put("sha256", sha256(item.content()))
                    .put("transferable", item.transferable()));
    if (after + limit < all.size()) {
      answer.put("next", after + limit);
    }
    return answer;
  }

  synchronized JsonNode transfer(JsonNode sent, String key, boolean losesOne) {
    var from = sent.path("from").asText();
    var to = sent.path("to").asText();
    var known = transfers.get(key);
    if (known != null) {
      return known;
    }
    var moving =
        new ArrayList<>(
            owned.getOrDefault(from, List.of()).stream()
                .filter(Item::transferable)
                .filter(item -> isAmong(sent.path("kinds"), item.kind()))
                .toList());
    owned.getOrDefault(from, new ArrayList<>()).removeAll(moving);
    if (losesOne && !moving.isEmpty()) {
      // It stays with its owner, and the transfer says nothing of it.
      owned.get(from).add(moving.removeLast());
    }
    owned.computeIfAbsent(to, _ -> new ArrayList<>()).addAll(moving);
    var transfer = MailHouse.JSON.createObjectNode();
    transfer.put("id", "transfer-" + (transfers.size() + 1));
    transfer.put("state", "done");
    transfer.put("detail", moving.size() + " items");
    transfers.put(key, transfer);
    return transfer;
  }

  /** None named are all. */
  private static boolean isAmong(JsonNode kinds, String kind) {
    var isAmong = kinds.isEmpty();
    for (var one : kinds) {
      isAmong |= one.asText().equals(kind);
    }
    return isAmong;
  }

  synchronized JsonNode transferState(String id) {
    return transfers.values().stream()
        .filter(transfer -> transfer.path("id").asText().equals(id))
        .findFirst()
        .orElseThrow();
  }

  private static String sha256(byte[] content) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(content));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Every Java platform has SHA-256", e);
    }
  }
}
