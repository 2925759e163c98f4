package ebb.standins;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.PreconditionFailedException;
import com.unboundid.scim2.common.exceptions.ResourceConflictException;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.messages.PatchRequest;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;

/** The accounts and groups of the mail and document house. */
public final class MailAccounts {
  private static final String ENTERPRISE =
      "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  private static final int LARGEST_PAGE = 100;

  private final Map<String, ObjectNode> users = new LinkedHashMap<>();
  private final Map<String, ObjectNode> groups = new LinkedHashMap<>();
  private final Map<String, String> passwords = new LinkedHashMap<>();

  /** Adds an empty group. */
  public synchronized void addGroup(String name) {
    var group = MailHouse.JSON.createObjectNode();
    group.putArray("schemas").add("urn:ietf:params:scim:schemas:core:2.0:Group");
    group.put("displayName", name);
    group.putArray("members");
    keep(groups, group, UUID.randomUUID().toString(), "Group");
  }

  /** Adds an account behind everybody's back. */
  public synchronized String add(String userName) {
    var user = MailHouse.JSON.createObjectNode().put("userName", userName).put("active", true);
    return keep(users, user, UUID.randomUUID().toString(), "User").path("id").asText();
  }

  /** Removes an account behind everybody's back. */
  public synchronized void remove(String id) {
    users.remove(id);
    groups.values().forEach(group -> removeMember(group, id));
  }

  /** The account of this name; null if there is none. */
  public synchronized JsonNode byName(String userName) {
    return users.values().stream()
        .filter(user -> user.path("userName").asText().equalsIgnoreCase(userName))
        .map(user -> (JsonNode) user.deepCopy())
        .findFirst()
        .orElse(null);
  }

  public synchronized int count() {
    return users.size();
  }

  /** Names of the groups an account is in. */
  public synchronized List<String> groupsOf(String id) {
    return groups.values().stream()
        .filter(group -> isMember(group, id))
        .map(group -> group.path("displayName").asText())
        .toList();
  }

  synchronized boolean canSignIn(String userName, String password) {
    var user = byName(userName);
    return user != null
        && user.path("active").asBoolean()
        && !password.isEmpty()
        && password.equals(passwords.get(user.path("id").asText()));
  }

  synchronized ObjectNode create(ObjectNode sent) throws ScimException {
    var name = sent.path("userName").asText("");
    if (name.isBlank()) {
      throw new BadRequestException("userName is required");
    }
    if (byName(name) != null) {
      throw new ResourceConflictException("userName " + name + " is taken", "uniqueness", null);
    }
    var user = sent.deepCopy();
    checkManager(user);
    if (!user.has("active")) {
      user.put("active", true);
    }
    return shown(keep(users, user, UUID.randomUUID().toString(), "User"));
  }

  synchronized ObjectNode get(String type, String id) throws ScimException {
    var resource = table(type).get(id);
    if (resource == null) {
      throw new ResourceNotFoundException("There is no " + type + " " + id);
    }
    return shown(resource);
  }

  synchronized ObjectNode patch(String type, String id, JsonNode sent, String ifMatch)
      throws ScimException {
    var resource = get(type, id);
    resource.remove("groups");
    if (ifMatch != null && !ifMatch.equals(resource.path("meta").path("version").asText())) {
      throw new PreconditionFailedException("The resource has changed since");
    }
    try {
      var patch = MailHouse.JSON.treeToValue(sent, PatchRequest.class);
      for (var operation : patch.getOperations()) {
        operation.apply(resource);
      }
    } catch (com.fasterxml.jackson.core.JsonProcessingException e) {
      throw new BadRequestException(e.getMessage());
    }
    checkManager(resource);
    return shown(keep(table(type), resource, id, type));
  }

  synchronized void delete(String id) throws ScimException {
    get("User", id);
    remove(id);
    passwords.remove(id);
  }

  /** RFC 7644, 3.4.2: filter, startIndex and count; never more than a page. */
  synchronized JsonNode list(String type, Map<String, String> query) throws ScimException {
    var filter = query.containsKey("filter") ? Filter.fromString(query.get("filter")) : null;
    var matching = new ArrayList<ObjectNode>();
    for (var resource : table(type).values()) {
      var shown = shown(resource);
      if (filter == null || FilterEvaluator.evaluate(filter, shown)) {
        matching.add(shown);
      }
    }
    int start = Math.max(1, Integer.parseInt(query.getOrDefault("startIndex", "1")));
    int count =
        Math.min(LARGEST_PAGE, Integer.parseInt(query.getOrDefault("count", "" + LARGEST_PAGE)));
    var page = matching.stream().skip(start - 1L).limit(count).toList();
    var answer = MailHouse.JSON.createObjectNode();
    answer.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:ListResponse");
    answer.put("totalResults", matching.size());
    answer.put("startIndex", start);
    answer.put("itemsPerPage", page.size());
    answer.putArray("Resources").addAll(page);
    return answer;
  }

  /** Whose manager an account still is. */
  synchronized JsonNode references(String id) {
    var answer = MailHouse.JSON.createObjectNode();
    var found = answer.putArray("references");
    users.values().stream()
        .filter(user -> managerOf(user).equals(id))
        .filter(user -> user.path("active").asBoolean())
        .forEach(
            user ->
                found
                    .addObject()
                    .put("kind", "manager")
                    .put("what", "manager of " + user.path("displayName").asText()));
    return answer;
  }

  private Map<String, ObjectNode> table(String type) {
    return type.equals("User") ? users : groups;
  }

  private void checkManager(ObjectNode user) throws ScimException {
    var manager = managerOf(user);
    if (!manager.isEmpty() && !users.containsKey(manager)) {
      throw new BadRequestException("The manager " + manager + " is no account here");
    }
  }

  private static String managerOf(ObjectNode user) {
    return user.path(ENTERPRISE).path("manager").path("value").asText("");
  }

  private ObjectNode keep(
      Map<String, ObjectNode> table, ObjectNode resource, String id, String type) {
    var password = resource.remove("password");
    if (password != null) {
      passwords.put(id, password.asText());
    }
    resource.put("id", id);
    var meta = MailHouse.JSON.createObjectNode();
    meta.put("resourceType", type);
    meta.put("version", "W/\"" + Integer.toHexString(hashOf(resource)) + "\"");
    resource.set("meta", meta);
    table.put(id, resource);
    return resource;
  }

  private static int hashOf(ObjectNode resource) {
    var content = resource.deepCopy();
    content.remove("meta");
    return content.toString().toLowerCase(Locale.ROOT).hashCode();
  }

  private ObjectNode shown(ObjectNode resource) {
    var shown = resource.deepCopy();
    if (users.containsKey(resource.path("id").asText())) {
      var memberships = MailHouse.JSON.createArrayNode();
      groupsOf(resource.path("id").asText())
          .forEach(name -> memberships.addObject().put("display", name));
      if (!memberships.isEmpty()) {
        shown.set("groups", memberships);
      }
    }
    return shown;
  }

  private static boolean isMember(ObjectNode group, String id) {
    for (var member : group.path("members")) {
      if (member.path("value").asText().equals(id)) {
        return true;
      }
    }
    return false;
  }

  private static void removeMember(ObjectNode group, String id) {
    var kept = MailHouse.JSON.createArrayNode();
    group
        .path("members")
        .forEach(
            member -> {
              if (!member.path("value").asText().equals(id)) {
                kept.add(member);
              }
            });
    group.set("members", kept);
  }
}
