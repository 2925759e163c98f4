package ebb.standins;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.PreconditionFailedException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.filters.Filter;
import com.unboundid.scim2.common.filters.FilterType;
import com.unboundid.scim2.common.messages.PatchRequest;
import com.unboundid.scim2.common.utils.FilterEvaluator;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/** The accounts and groups of the mail and document house. */
public final class MailAccounts {
  private static final String ENTERPRISE = MailSchemas.ENTERPRISE;

  private final Manners manners;
  private final Shelf users = new Shelf("User", "userName");
  private final Shelf groups = new Shelf("Group", "displayName");
  private final Map<String, LinkedHashMap<String, ObjectNode>> members = new HashMap<>();
  private final Map<String, String> passwords = new HashMap<>();

  MailAccounts(Manners manners) {
    this.manners = manners;
  }

  /** Adds an empty group. */
  public synchronized void addGroup(String name) {
    var group = MailHouse.JSON.createObjectNode();
    group.putArray("schemas").add(MailSchemas.GROUP);
    group.put("displayName", name);
    behindTheBack(groups, group);
  }

  /** Removes a group behind everybody's back. */
  public synchronized void removeGroup(String name) {
    var id = idOfGroup(name);
    members.remove(id);
    groups.remove(id, Duration.ZERO);
  }

  /** Puts an account into a group behind everybody's back. */
  public synchronized void putInto(String group, String id) {
    membersOf(idOfGroup(group)).put(id, MailHouse.JSON.createObjectNode().put("value", id));
  }

  /** Ids of who is in a group; nobody if there is none. */
  synchronized Set<String> membersOfGroup(String name) {
    return groups
        .byName(name, Duration.ZERO)
        .map(group -> Set.copyOf(membersOf(group.path("id").asText()).keySet()))
        .orElse(Set.of());
  }

  private String idOfGroup(String name) {
    return groups.byName(name, Duration.ZERO).orElseThrow().path("id").asText();
  }

  /** Adds an account behind everybody's back. */
  public synchronized String add(String userName) {
    var user = MailHouse.JSON.createObjectNode().put("userName", userName).put("active", true);
    return behindTheBack(users, user).path("id").asText();
  }

  /** Adds an account of the same names behind everybody's back. */
  public synchronized String addLike(JsonNode other, String userName) {
    var user = MailHouse.JSON.createObjectNode().put("userName", userName).put("active", true);
    user.set("name", other.path("name").deepCopy());
    return behindTheBack(users, user).path("id").asText();
  }

  private static ObjectNode behindTheBack(Shelf shelf, ObjectNode resource) {
    try {
      return shelf.add(resource, Duration.ZERO);
    } catch (ScimException e) {
      throw new IllegalArgumentException(e.getMessage(), e);
    }
  }

  /** Puts many into a group who are no accounts here. */
  public synchronized void addStrangers(String group, int count) {
    var id = idOfGroup(group);
    for (int i = 0; i < count; i++) {
      var member = MailHouse.JSON.createObjectNode().put("value", "stranger-" + i);
      membersOf(id).put("stranger-" + i, member);
    }
  }

  /** Removes an account behind everybody's back. */
  public synchronized void remove(String id) {
    users.remove(id, Duration.ZERO);
    members.values().forEach(all -> all.remove(id));
  }

  /** The account of this name; null if there is none. */
  public synchronized JsonNode byName(String userName) {
    return users.byName(userName, Duration.ZERO).map(ObjectNode::deepCopy).orElse(null);
  }

  public synchronized int count() {
    return users.count();
  }

  /** Of the accounts that can be used. */
  public synchronized List<String> idsInUse() {
    return users
        .all(Duration.ZERO)
        .filter(user -> user.path("active").asBoolean())
        .map(user -> user.path("id").asText())
        .toList();
  }

  /** Names of the groups an account is in. */
  public synchronized List<String> groupsOf(String id) {
    return groupIdsOf(id)
        .map(group -> groups.find(group, Duration.ZERO).orElseThrow())
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
    var user = sent.deepCopy();
    check(user);
    if (!user.has("active")) {
      user.put("active", true);
    }
    var password = user.remove("password");
    var made = users.add(spelt(user), manners.settling);
    keepPassword(made.path("id").asText(), password);
    return shown(made);
  }

  synchronized ObjectNode get(String type, String id) throws ScimException {
    return shown(shelf(type).get(id, manners.settling));
  }

  synchronized ObjectNode patch(String type, String id, JsonNode sent, String ifMatch)
      throws ScimException {
    var resource = now(type, id).deepCopy();
    expect(resource, ifMatch);
    var others = MailHouse.JSON.createObjectNode();
    others.set("schemas", sent.path("schemas"));
    var operations = others.putArray("Operations");
    for (var operation : sent.path("Operations")) {
      if (type.equals("Group") && operation.path("path").asText().startsWith("members")) {
        patchMembers(id, operation);
      } else {
        operations.add(operation);
      }
    }
    if (!operations.isEmpty()) {
      apply(others, resource);
    }
    return kept(type, id, resource);
  }

  private static void apply(ObjectNode sent, ObjectNode resource) throws ScimException {
    try {
      for (var operation : MailHouse.JSON.treeToValue(sent, PatchRequest.class).getOperations()) {
        operation.apply(resource);
      }
    } catch (JsonProcessingException e) {
      throw new BadRequestException(e.getMessage(), BadRequestException.INVALID_SYNTAX, e);
    }
  }

  /** One member comes or goes, and the others need not be named (RFC 7644, 3.5.2). */
  private void patchMembers(String group, JsonNode operation) throws ScimException {
    var all = membersOf(group);
    if (operation.path("op").asText().equalsIgnoreCase("remove")) {
      var filter = operation.path("path").asText();
      var at = filter.indexOf('"');
      all.remove(at < 0 ? "" : filter.substring(at + 1, filter.lastIndexOf('"')));
    } else {
      for (var member : operation.path("value")) {
        join(group, member);
      }
    }
  }

  private void join(String group, JsonNode member) throws ScimException {
    var id = member.path("value").asText();
    now("User", id);
    membersOf(group).put(id, member.deepCopy());
  }

  synchronized ObjectNode replace(String type, String id, ObjectNode sent, String ifMatch)
      throws ScimException {
    expect(now(type, id), ifMatch);
    var resource = sent.deepCopy();
    if (type.equals("Group")) {
      membersOf(id).clear();
      for (var member : sent.path("members")) {
        join(id, member);
      }
    }
    return kept(type, id, resource);
  }

  private ObjectNode kept(String type, String id, ObjectNode resource) throws ScimException {
    resource.remove("members");
    if (type.equals("User")) {
      check(resource);
      keepPassword(id, resource.remove("password"));
      spelt(resource);
      if (manners.dropsGroups && !resource.path("active").asBoolean()) {
        members.values().forEach(all -> all.remove(id));
      }
    }
    return shown(shelf(type).keep(id, resource, manners.settling));
  }

  private void expect(ObjectNode resource, String ifMatch) throws ScimException {
    if (ifMatch == null) {
      if (manners.strict && manners.versions && resource.has("userName")) {
        throw new PreconditionFailedException("Say with If-Match which version is to be changed");
      }
    } else if (!ifMatch.equals(resource.path("meta").path("version").asText())) {
      throw new PreconditionFailedException("The resource has changed since");
    }
  }

  synchronized void delete(String id) throws ScimException {
    var user = now("User", id).deepCopy();
    if (manners.keepsDeleted) {
      users.keep(id, user.put("active", false).put("deleted", true), manners.settling);
      return;
    }
    users.remove(id, manners.settling);
    members.values().forEach(all -> all.remove(id));
    passwords.remove(id);
  }

  /** A part of a list, from 0. */
  record Part(List<ObjectNode> resources, int total, int from) {}

  /** RFC 7644, 3.4.2: filter, and never more than a page. */
  synchronized Part list(String type, String filter, int from, int count) throws ScimException {
    if (filter != null && !manners.filters) {
      throw new BadRequestException(
          "Filters are not supported", BadRequestException.INVALID_FILTER);
    }
    var matching = filter == null ? all(type).toList() : matching(type, Filter.fromString(filter));
    var resources = new ArrayList<ObjectNode>();
    matching.stream()
        .skip(from)
        .limit(Math.min(manners.largestPage, count))
        .forEach(one -> resources.add(shown(one)));
    return new Part(resources, matching.size(), from);
  }

  private Stream<ObjectNode> all(String type) {
    return shelf(type).all(manners.settling);
  }

  private List<ObjectNode> matching(String type, Filter filter) throws ScimException {
    if (filter.getFilterType() == FilterType.EQUAL) {
      var value = filter.getComparisonValue().asText();
      switch (filter.getAttributePath().toString()) {
        case "userName", "displayName" -> {
          if (type.equals("User") == filter.getAttributePath().toString().equals("userName")) {
            return shelf(type).byName(value, manners.settling).stream().toList();
          }
        }
        case "externalId" -> {
          return shelf(type).byExternalId(value, manners.settling).stream().toList();
        }
        case "members.value", "members" -> {
          return groupIdsOf(value)
              .flatMap(id -> groups.find(id, manners.settling).stream())
              .toList();
        }
        default -> {}
      }
    }
    var matching = new ArrayList<ObjectNode>();
    for (var resource : all(type).toList()) {
      if (FilterEvaluator.evaluate(filter, shown(resource))) {
        matching.add(resource);
      }
    }
    return matching;
  }

  /** Whose manager an account still is. */
  synchronized JsonNode references(String id) {
    var answer = MailHouse.JSON.createObjectNode();
    var found = answer.putArray("references");
    users
        .all(Duration.ZERO)
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

  private Shelf shelf(String type) {
    return type.equals("User") ? users : groups;
  }

  private LinkedHashMap<String, ObjectNode> membersOf(String group) {
    return members.computeIfAbsent(group, _ -> new LinkedHashMap<>());
  }

  private Stream<String> groupIdsOf(String user) {
    return members.entrySet().stream()
        .filter(group -> group.getValue().containsKey(user))
        .map(Map.Entry::getKey);
  }

  private void check(ObjectNode user) throws ScimException {
    if (user.path("userName").asText("").isBlank()) {
      throw new BadRequestException("userName is required", BadRequestException.INVALID_VALUE);
    }
    var manager = managerOf(user);
    if (!manager.isEmpty() && users.find(manager, Duration.ZERO).isEmpty()) {
      throw new BadRequestException(
          "The manager " + manager + " is no account here", BadRequestException.INVALID_VALUE);
    }
    if (manners.strict) {
      MailSchemas.check(user);
    }
  }

  private static String managerOf(ObjectNode user) {
    return user.path(ENTERPRISE).path("manager").path("value").asText("");
  }

  private void keepPassword(String id, JsonNode password) {
    if (password != null) {
      passwords.put(id, password.asText());
    }
  }

  /** What of a sent account is kept, in the house's own spelling. */
  private ObjectNode spelt(ObjectNode user) {
    user.remove("groups");
    if (manners.normalises) {
      Spelling.normalise(user);
    }
    return user;
  }

  private ObjectNode now(String type, String id) throws ScimException {
    return shelf(type).get(id, Duration.ZERO);
  }

  private ObjectNode shown(ObjectNode resource) {
    var shown = resource.deepCopy();
    var id = resource.path("id").asText();
    if (!manners.versions) {
      ((ObjectNode) shown.path("meta")).remove("version");
    }
    if (resource.path("meta").path("resourceType").asText().equals("Group")) {
      ArrayNode all = shown.putArray("members");
      membersOf(id).values().forEach(all::add);
    } else if (manners.showsGroups) {
      var all = MailHouse.JSON.createArrayNode();
      groupIdsOf(id)
          .forEach(
              group ->
                  all.addObject()
                      .put("value", group)
                      .put(
                          "display",
                          groups
                              .find(group, Duration.ZERO)
                              .orElseThrow()
                              .path("displayName")
                              .asText()));
      if (!all.isEmpty()) {
        shown.set("groups", all);
      }
    }
    return shown;
  }
}
