package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.Unreachable;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Groups of one application, and who is in them. */
final class ScimGroups {
  /** A group may have so many members that it is sent whole only where there is no other way. */
  private static final String WITHOUT_MEMBERS = "excludedAttributes=members";

  private final JsonHttp http;
  private final ScimFeatures features;
  private final ScimLists lists;
  private final ScimPatch patch;
  private final Map<String, String> ids = new ConcurrentHashMap<>();

  ScimGroups(JsonHttp http, ScimFeatures features, ScimLists lists) {
    this.http = http;
    this.features = features;
    this.lists = lists;
    // By itself: an answer to several would show all members of each group.
    this.patch = new ScimPatch(ScimWrites.each(http));
  }

  /** Empty if there is no group of this name. */
  Optional<String> id(String name) throws Unreachable {
    var known = ids.get(name);
    if (known != null) {
      return Optional.of(known);
    }
    var id =
        lists.having(features.groups(), "displayName", name, "&" + WITHOUT_MEMBERS).stream()
            .findFirst()
            .map(group -> group.path("id").asString());
    id.ifPresent(value -> ids.put(name, value));
    return id;
  }

  /** Forgets what a group was called: it is gone, or called otherwise. */
  void forget(String name) {
    ids.remove(name);
  }

  Answer join(String group, String account) throws NoAnswer {
    if (!features.patches()) {
      return replaced(group, members -> add(members, account));
    }
    var add = ScimPatch.operation("add", "members");
    add.putArray("value").addObject().put("value", account);
    return patch.send(path(group) + "?" + WITHOUT_MEMBERS, null, add);
  }

  Answer leave(String group, String account) throws NoAnswer {
    if (!features.patches()) {
      return replaced(group, members -> remove(members, account));
    }
    return patch.send(
        path(group) + "?" + WITHOUT_MEMBERS,
        null,
        ScimPatch.operation("remove", "members[value eq \"%s\"]".formatted(account)));
  }

  private static boolean add(ArrayNode members, String account) {
    if (remove(members.deepCopy(), account)) {
      return false;
    }
    members.addObject().put("value", account);
    return true;
  }

  private static boolean remove(ArrayNode members, String account) {
    var before = members.size();
    return members.removeIf(member -> account.equals(member.path("value").asString(""))).size()
        < before;
  }

  private interface Edit {
    /** Whether anything changed. */
    boolean on(ArrayNode members);
  }

  /** The whole list goes, guarded by its version, where one member cannot be named. */
  private Answer replaced(String group, Edit edit) throws NoAnswer {
    var current = http.send("GET", path(group), null, Map.of());
    if (!current.isSuccess() || !(current.body() instanceof ObjectNode body)) {
      return current;
    }
    if (!edit.on(body.withArrayProperty("members"))) {
      return current;
    }
    body.remove("meta");
    return http.send(
        "PUT",
        path(group),
        body,
        current.etag() == null ? Map.of() : Map.of("If-Match", current.etag()));
  }

  private String path(String group) {
    return features.groups() + "/" + group;
  }

  /** Names of the groups an account is in. */
  Set<String> of(JsonNode user) throws Unreachable {
    var names = new TreeSet<String>();
    if (features.attributes().showsGroups()) {
      user.path("groups").forEach(group -> names.add(group.path("display").asString("")));
    } else if (features.groups() != null) {
      var id = user.path("id").asString();
      if (features.filters()) {
        lists
            .having(features.groups(), "members.value", id, "&" + WITHOUT_MEMBERS)
            .forEach(group -> names.add(group.path("displayName").asString("")));
      } else {
        names.addAll(byAccount().getOrDefault(id, Set.of()));
      }
    }
    return names;
  }

  /** Accounts to the groups they are in, where only the groups say it. */
  Map<String, Set<String>> byAccount() throws Unreachable {
    var all = new HashMap<String, Set<String>>();
    if (features.groups() != null) {
      lists.each(
          features.groups(),
          "",
          group -> {
            var name = group.path("displayName").asString("");
            group
                .path("members")
                .forEach(
                    member ->
                        all.computeIfAbsent(member.path("value").asString(""), _ -> new TreeSet<>())
                            .add(name));
          });
    }
    return all;
  }
}
