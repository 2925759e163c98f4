package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Which ways lead into accounts of the house, who is signed in, since when, and in which seat. */
public final class MailUse {
  private record Way(String id, String kind, String what) {}

  private static final List<String> PARTS =
      List.of(
          "holdings",
          "transfer",
          "references",
          "ways-in",
          "sessions",
          "activity",
          "seats",
          "replies",
          "earlier-items");

  private List<String> offered = PARTS;
  private final Map<String, List<Way>> ways = new HashMap<>();
  private final Map<String, Integer> sessions = new HashMap<>();
  private final Map<String, Instant> signedIn = new HashMap<>();
  private final Map<String, Integer> seats = new LinkedHashMap<>();
  private final Map<String, Set<String>> taken = new HashMap<>();
  private final Map<String, JsonNode> answers = new HashMap<>();
  private int numbers;

  /** Opens a way in: a token, the password of a device, a forwarding rule. */
  public synchronized void openWay(String account, String kind, String what) {
    ways.computeIfAbsent(account, _ -> new ArrayList<>())
        .add(new Way("way-" + ++numbers, kind, what));
  }

  /** What the open ways into an account are, in words. */
  public synchronized List<String> openWays(String account) {
    return ways.getOrDefault(account, List.of()).stream().map(Way::what).toList();
  }

  public synchronized void signIn(String account, Instant at) {
    sessions.merge(account, 1, Integer::sum);
    signedIn.put(account, at);
  }

  public synchronized int sessionsOf(String account) {
    return sessions.getOrDefault(account, 0);
  }

  /** What answers whoever writes to an account; null for nothing. */
  public synchronized JsonNode answerOf(String account) {
    return answers.get(account);
  }

  synchronized void answer(String account, JsonNode answer) {
    answers.put(account, answer);
  }

  synchronized void answerNoMore(String account) {
    answers.remove(account);
  }

  /** Buys seats of a kind. */
  public synchronized void addSeats(String kind, int total) {
    seats.merge(kind, total, Integer::sum);
  }

  public synchronized void takeSeat(String account, String kind) {
    taken.computeIfAbsent(account, _ -> new LinkedHashSet<>()).add(kind);
  }

  /** How many accounts take a seat of a kind. */
  public synchronized int takersOf(String kind) {
    return (int) taken.values().stream().filter(one -> one.contains(kind)).count();
  }

  /** From now on only these parts of the companion interface are there. */
  public synchronized void offers(List<String> parts) {
    offered = List.copyOf(parts);
  }

  public synchronized void offersAll() {
    offered = PARTS;
  }

  synchronized JsonNode parts() {
    var answer = MailHouse.JSON.createObjectNode();
    offered.forEach(answer.putArray("parts")::add);
    return answer;
  }

  synchronized JsonNode waysInto(String account) {
    var answer = MailHouse.JSON.createObjectNode();
    var open = answer.putArray("open");
    ways.getOrDefault(account, List.of())
        .forEach(
            way ->
                open.addObject()
                    .put("id", way.id())
                    .put("kind", way.kind())
                    .put("what", way.what()));
    return answer;
  }

  synchronized void shut(String account, String way) {
    ways.getOrDefault(account, new ArrayList<>()).removeIf(one -> one.id().equals(way));
  }

  synchronized JsonNode sessions(String account) {
    return MailHouse.JSON.createObjectNode().put("open", sessionsOf(account));
  }

  synchronized void endSessions(String account) {
    sessions.remove(account);
  }

  synchronized JsonNode activity(String account) {
    var answer = MailHouse.JSON.createObjectNode();
    if (signedIn.containsKey(account)) {
      answer.put("signedInAt", signedIn.get(account).toString());
      answer.put("usedAt", signedIn.get(account).toString());
    }
    return answer;
  }

  synchronized JsonNode seats() {
    var answer = MailHouse.JSON.createObjectNode();
    var all = answer.putArray("seats");
    seats.forEach(
        (kind, total) ->
            all.addObject()
                .put("id", kind)
                .put("name", kind)
                .put("total", total)
                .put("taken", takersOf(kind)));
    return answer;
  }

  /** Those who take a seat, after one of them, in the order of their ids. */
  synchronized JsonNode takers(String kind, String after, int limit) {
    var all =
        taken.entrySet().stream()
            .filter(one -> one.getValue().contains(kind))
            .map(Map.Entry::getKey)
            .filter(account -> account.compareTo(after) > 0)
            .sorted()
            .limit(limit + 1L)
            .toList();
    var answer = MailHouse.JSON.createObjectNode();
    var accounts = answer.putArray("accounts");
    all.stream().limit(limit).forEach(accounts::add);
    if (all.size() > limit) {
      answer.put("next", all.get(limit - 1));
    }
    return answer;
  }

  /** Whether there was one left, or the account takes it already. */
  synchronized boolean sit(String account, String kind) {
    var own = taken.computeIfAbsent(account, _ -> new LinkedHashSet<>());
    var left = seats.get(kind) - takersOf(kind);
    return own.contains(kind) || (left > 0 && own.add(kind));
  }

  synchronized void rise(String account, String kind) {
    taken.getOrDefault(account, new LinkedHashSet<>()).remove(kind);
  }

  synchronized boolean has(String kind) {
    return seats.containsKey(kind);
  }

  synchronized JsonNode seatsOf(String account) {
    var answer = MailHouse.JSON.createObjectNode();
    taken.getOrDefault(account, Set.of()).forEach(answer.putArray("seats")::add);
    return answer;
  }
}
