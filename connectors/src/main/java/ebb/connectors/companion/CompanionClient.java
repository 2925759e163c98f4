package ebb.connectors.companion;

import ebb.connectors.http.JsonHttp;
import ebb.core.application.Activity;
import ebb.core.application.EarlierItems;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Outcome;
import ebb.core.application.Ownership;
import ebb.core.application.Part;
import ebb.core.application.References;
import ebb.core.application.Replies;
import ebb.core.application.Seats;
import ebb.core.application.Sessions;
import ebb.core.application.Unreachable;
import ebb.core.application.WaysIn;
import ebb.core.problem.Problem;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;

/**
 * Speaks the companion interface of an application (docs/companion.yaml). Each part of it may be
 * missing; which are there it says at its root.
 */
public final class CompanionClient implements AutoCloseable {
  private static final int PAGE = 200;

  /** The word the interface has for each part. */
  private static final Map<String, Part> WORDS =
      Map.of(
          "references", Part.REFERENCES,
          "ways-in", Part.WAYS_IN,
          "sessions", Part.SESSIONS,
          "activity", Part.ACTIVITY,
          "seats", Part.SEATS,
          "replies", Part.REPLIES,
          "earlier-items", Part.EARLIER_ITEMS);

  /** What an account owns is of use only where it can be handed over, too. */
  private static final List<String> OWNERSHIP = List.of("holdings", "transfer");

  private final JsonHttp http;
  private volatile Set<Part> parts;

  public CompanionClient(JsonHttp http) {
    this.http = http;
  }

  /** Which parts the application offers, as it said when it was first asked. */
  public Set<Part> parts() throws Unreachable {
    if (parts == null) {
      parts = askParts();
    }
    return parts;
  }

  private Set<Part> askParts() throws Unreachable {
    var words = new TreeSet<String>();
    http.get("").path("parts").forEach(word -> words.add(word.asString("")));
    var offered = EnumSet.noneOf(Part.class);
    WORDS.forEach(
        (word, part) -> {
          if (words.contains(word)) {
            offered.add(part);
          }
        });
    if (words.containsAll(OWNERSHIP)) {
      offered.add(Part.OWNERSHIP);
    }
    return offered;
  }

  /** Asks anew which parts there are. */
  public Tried inspect() {
    try {
      parts = askParts();
      return Tried.works("ask by the companion interface");
    } catch (Unreachable e) {
      return new Tried("ask by the companion interface", e.problem(), Part.OWNERSHIP.without());
    }
  }

  public Optional<Ownership> ownership() {
    return offers(Part.OWNERSHIP) ? Optional.of(new Owned()) : Optional.empty();
  }

  public Optional<References> references() {
    return offers(Part.REFERENCES) ? Optional.of(this::references) : Optional.empty();
  }

  public Optional<WaysIn> waysIn() {
    return offers(Part.WAYS_IN) ? Optional.of(new Ways()) : Optional.empty();
  }

  public Optional<Sessions> sessions() {
    return offers(Part.SESSIONS) ? Optional.of(new SignedIn()) : Optional.empty();
  }

  public Optional<Activity> activity() {
    return offers(Part.ACTIVITY) ? Optional.of(this::activity) : Optional.empty();
  }

  public Optional<Seats> seats() {
    return offers(Part.SEATS) ? Optional.of(new Places()) : Optional.empty();
  }

  public Optional<Replies> replies() {
    return offers(Part.REPLIES) ? Optional.of(new Answers()) : Optional.empty();
  }

  public Optional<EarlierItems> earlierItems() {
    return offers(Part.EARLIER_ITEMS) ? Optional.of(new Made()) : Optional.empty();
  }

  /**
   * One that cannot be asked is taken to offer all: it then says itself that it does not answer.
   */
  private boolean offers(Part part) {
    try {
      return parts().contains(part);
    } catch (Unreachable _) {
      return true;
    }
  }

  @Override
  public void close() {
    http.close();
  }

  private List<References.Reference> references(String accountId) throws Unreachable {
    return http.get("/accounts/%s/references".formatted(accountId))
        .path("references")
        .valueStream()
        .map(
            node ->
                new References.Reference(
                    node.path("kind").asString(), node.path("what").asString()))
        .toList();
  }

  private Optional<Activity.Use> activity(String accountId) throws Unreachable {
    return http.find("/accounts/%s/activity".formatted(accountId))
        .map(node -> new Activity.Use(instant(node, "signedInAt"), instant(node, "usedAt")));
  }

  private static Instant instant(JsonNode node, String name) {
    try {
      var text = node.path(name).asString("");
      return text.isEmpty() ? null : Instant.parse(text);
    } catch (DateTimeException _) {
      return null;
    }
  }

  /** What is not there is as good as deleted. */
  private void delete(String path) throws Unreachable {
    order("DELETE", path, null);
  }

  private void order(String method, String path, JsonNode body) throws Unreachable {
    try {
      var answer = http.send(method, path, body, Map.of());
      if (!answer.isSuccess() && !(method.equals("DELETE") && answer.status() == 404)) {
        throw new Unreachable(http.problem(answer), null);
      }
    } catch (JsonHttp.NoAnswer e) {
      throw new Unreachable(e.problem(), e);
    }
  }

  private final class Owned implements Ownership {
    @Override
    public void items(String accountId, Consumer<Item> each) throws Unreachable {
      var next = Optional.of("0");
      while (next.isPresent()) {
        var page =
            http.get("/accounts/%s/items?after=%s&limit=%d".formatted(accountId, next.get(), PAGE));
        for (var item : page.path("items")) {
          each.accept(item(item));
        }
        next = Optional.of(page.path("next").asString("")).filter(text -> !text.isEmpty());
      }
    }

    @Override
    public Transfer startTransfer(String from, String to, Set<String> kinds, String key)
        throws Unreachable {
      var body = JsonHttp.JSON.createObjectNode().put("from", from).put("to", to);
      if (!kinds.isEmpty()) {
        var some = body.putArray("kinds");
        kinds.stream().sorted().forEach(some::add);
      }
      return http.orUnreachable("POST", "/transfers", body, Map.of("Idempotency-Key", key))
          .map(CompanionClient::transfer)
          .orElseThrow(() -> notThere("transfers"));
    }

    @Override
    public Transfer transfer(String id) throws Unreachable {
      return CompanionClient.transfer(http.get("/transfers/" + id));
    }
  }

  private final class Ways implements WaysIn {
    @Override
    public List<Way> open(String accountId) throws Unreachable {
      return http.get("/accounts/%s/ways-in".formatted(accountId))
          .path("open")
          .valueStream()
          .map(
              node ->
                  new Way(
                      node.path("id").asString(),
                      node.path("kind").asString(),
                      node.path("what").asString()))
          .toList();
    }

    @Override
    public void shut(String accountId, String way) throws Unreachable {
      delete("/accounts/%s/ways-in/%s".formatted(accountId, way));
    }
  }

  private final class SignedIn implements Sessions {
    @Override
    public int open(String accountId) throws Unreachable {
      return http.get("/accounts/%s/sessions".formatted(accountId)).path("open").asInt();
    }

    @Override
    public void end(String accountId) throws Unreachable {
      delete("/accounts/%s/sessions".formatted(accountId));
    }
  }

  private final class Answers implements Replies {
    @Override
    public Optional<Reply> of(String accountId) throws Unreachable {
      return http.find(path(accountId))
          .map(
              node ->
                  new Reply(
                      node.path("subject").asString(""),
                      node.path("text").asString(""),
                      LocalDate.parse(node.path("until").asString())));
    }

    @Override
    public void set(String accountId, Reply reply) throws Unreachable {
      var body =
          JsonHttp.JSON
              .createObjectNode()
              .put("subject", reply.subject())
              .put("text", reply.text())
              .put("until", reply.until().toString());
      order("PUT", path(accountId), body);
    }

    @Override
    public void takeBack(String accountId) throws Unreachable {
      delete(path(accountId));
    }

    private static String path(String accountId) {
      return "/accounts/%s/reply".formatted(accountId);
    }
  }

  private final class Made implements EarlierItems {
    @Override
    public List<Item> of(String group, int limit) throws Unreachable {
      return http.find("/groups/%s/items?limit=%d".formatted(encoded(group), limit))
          .map(page -> page.path("items").valueStream().limit(limit).map(Made::item).toList())
          .orElse(List.of());
    }

    @Override
    public List<Stray> strays(String group, Optional<String> accountId, int limit)
        throws Unreachable {
      var all = new ArrayList<Stray>();
      var only = accountId.map(id -> "&account=" + encoded(id)).orElse("");
      var next = Optional.of("");
      while (next.isPresent() && all.size() < limit) {
        var page =
            http.find(
                "/groups/%s/strays?after=%s&limit=%d%s"
                    .formatted(encoded(group), encoded(next.get()), PAGE, only));
        page.ifPresent(found -> found.path("strays").forEach(node -> all.add(stray(node))));
        next = page.map(found -> found.path("next").asString("")).filter(text -> !text.isEmpty());
      }
      return all.subList(0, Math.min(limit, all.size()));
    }

    @Override
    public void name(String group, String item, String accountId, boolean isNamed)
        throws Unreachable {
      var path =
          "/groups/%s/items/%s/accounts/%s"
              .formatted(encoded(group), encoded(item), encoded(accountId));
      order(isNamed ? "PUT" : "DELETE", path, null);
    }

    private static Stray stray(JsonNode node) {
      return new Stray(
          item(node.path("item")), node.path("account").asString(), node.path("named").asBoolean());
    }

    private static Item item(JsonNode node) {
      return new Item(
          node.path("id").asString(), node.path("kind").asString(), node.path("name").asString());
    }
  }

  private final class Places implements Seats {
    @Override
    public List<Seat> all() throws Unreachable {
      return http.get("/seats")
          .path("seats")
          .valueStream()
          .map(
              node ->
                  new Seat(
                      node.path("id").asString(),
                      node.path("name").asString(),
                      node.path("total").isNumber() ? node.path("total").asLong() : null,
                      node.path("taken").asLong()))
          .toList();
    }

    @Override
    public List<String> of(String accountId) throws Unreachable {
      return http.get("/accounts/%s/seats".formatted(accountId))
          .path("seats")
          .valueStream()
          .map(JsonNode::asString)
          .toList();
    }

    @Override
    public void each(BiConsumer<String, String> taken) throws Unreachable {
      for (var seat : all()) {
        var next = Optional.of("");
        while (next.isPresent()) {
          var page =
              http.get(
                  "/seats/%s/accounts?after=%s&limit=%d"
                      .formatted(encoded(seat.id()), encoded(next.get()), PAGE));
          page.path("accounts").forEach(account -> taken.accept(seat.id(), account.asString()));
          next = Optional.of(page.path("next").asString("")).filter(text -> !text.isEmpty());
        }
      }
    }

    @Override
    public Outcome take(String accountId, String seat) {
      return sit("PUT", accountId, seat);
    }

    @Override
    public Outcome free(String accountId, String seat) {
      return sit("DELETE", accountId, seat);
    }

    /** What the account is like afterwards is read by whoever reads accounts. */
    private Outcome sit(String method, String accountId, String seat) {
      var path = "/accounts/%s/seats/%s".formatted(accountId, encoded(seat));
      try {
        var answer = http.send(method, path, null, Map.of());
        if (answer.isSuccess()) {
          return new Outcome.Applied(Optional.empty());
        }
        return answer.status() == 409
            ? new Outcome.Refused(noSeatLeft(seat))
            : answer.status() == 404
                ? new Outcome.Refused(noSuchSeat(accountId, seat))
                : http.outcome(answer);
      } catch (JsonHttp.NoAnswer e) {
        return e.outcome();
      }
    }
  }

  private static Problem noSeatLeft(String seat) {
    return new Problem(
        "no-seat-left",
        "All seats %s are taken.".formatted(seat),
        "The application has no more of them.",
        "Free one, or buy more; then retry the set.",
        null);
  }

  private static Problem noSuchSeat(String account, String seat) {
    return new Problem(
        "seat-unknown",
        "There is no seat %s for account %s.".formatted(seat, account),
        "The application has no such seat, or no such account any more.",
        "Correct the seat in the rule, or sync the application.",
        null);
  }

  private static String encoded(String text) {
    // A form writes a blank as a plus; an address does not (RFC 3986, 2.1).
    return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
  }

  private static Ownership.Item item(JsonNode item) {
    return new Ownership.Item(
        item.path("id").asString(),
        item.path("kind").asString(),
        item.path("name").asString(),
        item.path("bytes").asLong(),
        item.path("sha256").asString(),
        item.path("transferable").asBoolean());
  }

  private static Ownership.Transfer transfer(JsonNode node) {
    return new Ownership.Transfer(
        node.path("id").asString(),
        Ownership.TransferState.valueOf(node.path("state").asString().toUpperCase(Locale.ROOT)),
        node.path("detail").asString(""));
  }

  private static Unreachable notThere(String part) {
    return new Unreachable(
        new Problem(
            "companion-part-missing",
            "The application has no %s.".formatted(part),
            "It does not offer this part of the companion interface.",
            "Correct the setting companion, or take it out.",
            null),
        null);
  }
}
