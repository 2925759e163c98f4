package ebb.connectors.scim;

import ebb.connectors.companion.CompanionClient;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Equality;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Ownership;
import ebb.core.application.References;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A connector to one application that speaks SCIM 2.0, with the companion interface if it has it.
 */
public final class ScimConnector implements Connector {
  /** Calls at once; the application's own limits come on top. */
  public static final int CALLS_AT_ONCE = 8;

  private static final int PAGE = 100;
  private static final String USERS = "/scim/v2/Users";
  private static final String GROUPS = "/scim/v2/Groups";

  private final String application;
  private final JsonHttp http;
  private final Optional<CompanionClient> companion;
  private final Map<String, String> groupIds = new ConcurrentHashMap<>();
  private volatile Capabilities capabilities;

  private ScimConnector(String application, JsonHttp http, Optional<CompanionClient> companion) {
    this.application = application;
    this.http = http;
    this.companion = companion;
  }

  /**
   * @param settings address (before /scim/v2), companion (its path; absent if there is none)
   * @param token bearer token (RFC 6750)
   */
  public static ScimConnector open(String application, Map<String, String> settings, Secret token) {
    var http = new JsonHttp(application, settings.get("address"), token, CALLS_AT_ONCE * 2);
    return new ScimConnector(
        application,
        http,
        Optional.ofNullable(settings.get("companion"))
            .map(path -> new CompanionClient(http, path)));
  }

  @Override
  public Capabilities capabilities() throws Unreachable {
    if (capabilities == null) {
      capabilities =
          new Capabilities(
              ScimAttribute.ALL.keySet(),
              equalities(),
              true,
              companion.isPresent(),
              companion.isPresent(),
              false);
    }
    return capabilities;
  }

  /** Case-exactness as the application's own schemas state it (RFC 7643, 7). */
  private Map<String, Equality> equalities() throws Unreachable {
    var exact = new HashSet<String>();
    for (var schema : http.get("/scim/v2/Schemas").path("Resources")) {
      collectExact(schema.path("attributes"), "", exact);
    }
    var equalities = new HashMap<String, Equality>();
    ScimAttribute.ALL.forEach(
        (name, attribute) ->
            equalities.put(
                name,
                exact.contains(schemaPath(attribute))
                    ? Equality.EXACT
                    : Equality.IGNORE_CASE_AND_SPACE));
    return equalities;
  }

  private static void collectExact(JsonNode attributes, String prefix, HashSet<String> exact) {
    for (var attribute : attributes) {
      var path = prefix + attribute.path("name").asString();
      if (attribute.path("caseExact").asBoolean(false)) {
        exact.add(path);
      }
      collectExact(attribute.path("subAttributes"), path + ".", exact);
    }
  }

  private static String schemaPath(ScimAttribute attribute) {
    return switch (attribute) {
      case ScimAttribute.Simple(_, var name, var sub) -> sub == null ? name : name + "." + sub;
      case ScimAttribute.Typed(var name, _) -> name + ".value";
    };
  }

  @Override
  public void readAll(Consumer<ObservedAccount> each) throws Unreachable {
    int start = 1;
    int total = 1;
    while (start <= total) {
      var page = http.get("%s?startIndex=%d&count=%d".formatted(USERS, start, PAGE));
      total = page.path("totalResults").asInt();
      var resources = page.path("Resources");
      if (resources.isEmpty() && start <= total) {
        throw new Unreachable(emptyPage(start, total), null);
      }
      resources.forEach(user -> each.accept(observed(user)));
      start += resources.size();
    }
  }

  @Override
  public Optional<ObservedAccount> find(String accountId) throws Unreachable {
    return http.find(USERS + "/" + accountId).map(ScimConnector::observed);
  }

  @Override
  public Optional<ObservedAccount> findByExternalId(String externalId) throws Unreachable {
    var found =
        http.get(
            "%s?filter=%s".formatted(USERS, encoded("externalId eq \"%s\"".formatted(externalId))));
    return found.path("Resources").valueStream().findFirst().map(ScimConnector::observed);
  }

  @Override
  public Outcome apply(Instruction instruction) {
    try {
      return switch (instruction) {
        case Instruction.Create create -> create(create);
        case Instruction.Update(var id, var values) -> update(id, values);
        case Instruction.SetUsable(var id, var usable) ->
            patchUser(id, null, operation("replace", "active").put("value", usable));
        case Instruction.SetPassword(var id, var password) -> {
          var outcome =
              patchUser(id, null, operation("replace", "password").put("value", password.reveal()));
          yield outcome instanceof Outcome.Applied ? new Outcome.Accepted() : outcome;
        }
        case Instruction.Join(var id, var group) -> join(id, group);
        case Instruction.Leave(var id, var group) -> leave(id, group);
        case Instruction.Delete(var id) -> delete(id);
      };
    } catch (NoAnswer e) {
      return e.outcome();
    } catch (Unreachable e) {
      return new Outcome.RetryLater(null, e.problem());
    }
  }

  @Override
  public Optional<Ownership> ownership() {
    return companion.map(client -> client);
  }

  @Override
  public Optional<References> references() {
    return companion.map(client -> client);
  }

  @Override
  public void close() {
    http.close();
  }

  private Outcome create(Instruction.Create create) throws NoAnswer, Unreachable {
    var user = JsonHttp.JSON.createObjectNode();
    user.putArray("schemas")
        .add("urn:ietf:params:scim:schemas:core:2.0:User")
        .add(ScimAttribute.ENTERPRISE);
    user.put("externalId", create.externalId());
    user.put("active", create.usable());
    create.values().forEach((name, texts) -> ScimAttribute.ALL.get(name).write(user, texts));
    var answer = http.send("POST", USERS, user, Map.of());
    if (answer.status() == 409) {
      return findByExternalId(create.externalId())
          .<Outcome>map(account -> new Outcome.AlreadyInPlace(Optional.of(account)))
          .orElseGet(() -> new Outcome.Refused(nameTaken(create)));
    }
    return answer.isSuccess()
        ? readBack(answer.body().path("id").asString())
        : http.outcome(answer);
  }

  private Outcome update(String id, SortedMap<String, List<String>> values)
      throws NoAnswer, Unreachable {
    var current = http.send("GET", USERS + "/" + id, null, Map.of());
    if (!current.isSuccess()) {
      return current.status() == 404 ? new Outcome.Refused(gone(id)) : http.outcome(current);
    }
    var operations = new ArrayList<ObjectNode>();
    var lists = new TreeMap<String, ArrayNode>();
    values.forEach(
        (name, texts) -> {
          switch (ScimAttribute.ALL.get(name)) {
            case ScimAttribute.Simple simple -> operations.add(set(simple, texts));
            case ScimAttribute.Typed typed -> {
              // A filter in the path fails where no value of the type is there yet
              // (RFC 7644, 3.5.2.3), so the whole list goes, guarded by If-Match.
              typed.write((ObjectNode) current.body(), texts);
              lists.put(typed.name(), (ArrayNode) current.body().path(typed.name()));
            }
          }
        });
    lists.forEach((name, list) -> operations.add(operation("replace", name).set("value", list)));
    return patchUser(id, current.etag(), operations.toArray(ObjectNode[]::new));
  }

  private static ObjectNode set(ScimAttribute.Simple simple, List<String> texts) {
    return texts.isEmpty()
        ? operation("remove", simple.path())
        : operation("replace", simple.path()).put("value", texts.getFirst());
  }

  private Outcome patchUser(String id, String etag, ObjectNode... operations) throws NoAnswer {
    var answer = patch(USERS + "/" + id, etag, operations);
    if (answer.status() == 404) {
      return new Outcome.Refused(gone(id));
    }
    return answer.isSuccess() ? readBack(id) : http.outcome(answer);
  }

  private Answer patch(String path, String etag, ObjectNode... operations) throws NoAnswer {
    var body = JsonHttp.JSON.createObjectNode();
    body.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:PatchOp");
    var list = body.putArray("Operations");
    List.of(operations).forEach(list::add);
    return http.send("PATCH", path, body, etag == null ? Map.of() : Map.of("If-Match", etag));
  }

  private static ObjectNode operation(String op, String path) {
    return JsonHttp.JSON.createObjectNode().put("op", op).put("path", path);
  }

  private Outcome join(String id, String group) throws NoAnswer, Unreachable {
    var groupId = groupId(group);
    if (groupId.isEmpty()) {
      return new Outcome.Refused(noGroup(group));
    }
    var add = operation("add", "members");
    add.putArray("value").addObject().put("value", id);
    return inGroup(id, patch(GROUPS + "/" + groupId.get(), null, add));
  }

  private Outcome leave(String id, String group) throws NoAnswer, Unreachable {
    var groupId = groupId(group);
    if (groupId.isEmpty()) {
      return readBack(id);
    }
    return inGroup(
        id,
        patch(
            GROUPS + "/" + groupId.get(),
            null,
            operation("remove", "members[value eq \"%s\"]".formatted(id))));
  }

  private Outcome inGroup(String id, Answer answer) {
    return answer.isSuccess() ? readBack(id) : http.outcome(answer);
  }

  private Outcome delete(String id) throws NoAnswer {
    var answer = http.send("DELETE", USERS + "/" + id, null, Map.of());
    if (answer.status() == 404) {
      return new Outcome.AlreadyInPlace(Optional.empty());
    }
    if (!answer.isSuccess()) {
      return http.outcome(answer);
    }
    var left = http.send("GET", USERS + "/" + id, null, Map.of());
    return left.status() == 404
        ? new Outcome.Applied(Optional.empty())
        : new Outcome.Unknown(stillThere(id));
  }

  private Outcome readBack(String id) {
    try {
      return find(id)
          .<Outcome>map(account -> new Outcome.Applied(Optional.of(account)))
          .orElseGet(() -> new Outcome.Unknown(gone(id)));
    } catch (Unreachable e) {
      return new Outcome.Unknown(e.problem());
    }
  }

  private Optional<String> groupId(String name) throws Unreachable {
    var known = groupIds.get(name);
    if (known != null) {
      return Optional.of(known);
    }
    var found =
        http.get(
            "%s?filter=%s"
                .formatted(
                    GROUPS,
                    encoded("displayName eq \"%s\"".formatted(name.replace("\"", "\\\"")))));
    var id =
        found.path("Resources").valueStream().findFirst().map(group -> group.path("id").asString());
    id.ifPresent(value -> groupIds.put(name, value));
    return id;
  }

  private static ObservedAccount observed(JsonNode user) {
    var values = new TreeMap<String, List<String>>();
    ScimAttribute.ALL.forEach(
        (name, attribute) -> {
          var texts = attribute.read(user);
          if (!texts.isEmpty()) {
            values.put(name, texts);
          }
        });
    var groups = new TreeSet<String>();
    user.path("groups").forEach(group -> groups.add(group.path("display").asString()));
    return new ObservedAccount(
        user.path("id").asString(),
        user.path("externalId").asString(null),
        user.path("active").asBoolean(true),
        values,
        groups);
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  private Problem nameTaken(Instruction.Create create) {
    return new Problem(
        "name-taken",
        "%s already has an account %s.".formatted(application, create.values().get("userName")),
        "It belongs to somebody else, or was made there by hand.",
        "Sync the application and link that account, or give the person another login.",
        null);
  }

  private Problem gone(String id) {
    return new Problem(
        "account-gone",
        "%s has no account %s any more.".formatted(application, id),
        "Somebody deleted it there.",
        "Sync the application; Ebb then proposes to create it anew.",
        null);
  }

  private Problem stillThere(String id) {
    return new Problem(
        "account-still-there",
        "%s still shows account %s after deleting it.".formatted(application, id),
        "It may delete with a delay.",
        "Nothing need be done: it is looked up again.",
        null);
  }

  private Problem noGroup(String group) {
    return new Problem(
        "group-unknown",
        "%s has no group %s.".formatted(application, group),
        "It was renamed or never made there.",
        "Make the group there, or correct the name, then retry the change.",
        null);
  }

  private Problem emptyPage(int start, int total) {
    return new Problem(
        "list-cut-short",
        "%s said there are %d accounts and sent none from %d on."
            .formatted(application, total, start),
        "Going on would take the rest for gone.",
        "See whether it is well, then sync again.",
        null);
  }
}
