package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Unreachable;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Groups of one application, and who is in them. */
final class ScimGroups {
  /** A group may have so many members that it is sent whole only where there is no other way. */
  private static final String WITHOUT_MEMBERS = "excludedAttributes=members";

  /** So many members of a group that are no accounts are told of; who they all are is not kept. */
  private static final int MOST_TOLD = 1_000;

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
        names.addAll(all(_ -> false).groupsOf(id));
      }
    }
    return names;
  }

  /**
   * All groups.
   *
   * @param names by their ids
   * @param members to the names of the groups they are in
   */
  record All(Map<String, String> names, Map<String, SortedSet<String>> members) {
    Set<String> groupsOf(String account) {
      return members.getOrDefault(account, Collections.emptySortedSet());
    }

    /** The groups with those of their members that are no accounts. */
    List<ObservedGroup> observed(Predicate<String> isAccount) {
      var inner = new HashMap<String, SortedSet<String>>();
      var strangers = new HashMap<String, SortedSet<String>>();
      members.forEach(
          (member, groups) -> {
            if (!isAccount.test(member)) {
              var group = names.get(member);
              groups.forEach(
                  name -> {
                    var those =
                        (group == null ? strangers : inner)
                            .computeIfAbsent(name, _ -> new TreeSet<>());
                    if (those.size() < MOST_TOLD) {
                      those.add(group == null ? member : group);
                    }
                  });
            }
          });
      return names.entrySet().stream()
          .map(
              group ->
                  new ObservedGroup(
                      group.getKey(),
                      group.getValue(),
                      List.of(),
                      inner.getOrDefault(group.getValue(), new TreeSet<>()),
                      strangers.getOrDefault(group.getValue(), new TreeSet<>())))
          .toList();
    }
  }

  /**
   * Reads all groups.
   *
   * @param leftOut members that are not asked about: their own resources say it
   */
  All all(Predicate<String> leftOut) throws Unreachable {
    var all = new All(new TreeMap<>(), new HashMap<>());
    if (features.groups() != null) {
      lists.each(
          features.groups(),
          "",
          group -> {
            var name = group.path("displayName").asString("");
            all.names().put(group.path("id").asString(""), name);
            for (var member : group.path("members")) {
              var id = member.path("value").asString("");
              if (!leftOut.test(id)) {
                all.members().computeIfAbsent(id, _ -> new TreeSet<>()).add(name);
              }
            }
          });
    }
    return all;
  }
}
