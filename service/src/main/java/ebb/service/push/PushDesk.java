package ebb.service.push;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.GenericScimResource;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.messages.PatchRequest;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.store.push.Resource;
import ebb.store.push.Resources;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Takes in what is pushed, each in the caller's transaction: nothing is written of what is refused.
 * Said again word for word, a resource stays as it is, and nothing waits because of it.
 */
@Component
final class PushDesk {
  private static final String MEMBERS = "members";
  private static final String OPERATIONS = "Operations";

  /** So many in one group; more are no group but everybody. */
  private static final int MOST_MEMBERS = 100_000;

  private final Resources resources;

  PushDesk(Resources resources) {
    this.resources = resources;
  }

  Resource get(StatelessSession session, Sender sender, Resource.Kind kind, String id) {
    mayHave(sender, kind);
    return resources
        .get(session, sender.source(), kind, id)
        .orElseThrow(
            () ->
                Refusal.notFound(
                    kind.name().toLowerCase(Locale.ROOT),
                    id,
                    "Look for it by externalId or userName; or send it anew."));
  }

  Resource create(StatelessSession session, Sender sender, Resource.Kind kind, JsonNode sent) {
    mayHave(sender, kind);
    var checked = ResourceCheck.checked(sent, kind, sender.schemas());
    resources.inTurn(session, sender.source());
    var now = Instant.now();
    var id = UUID.randomUUID().toString();
    var bare =
        new Resource(id, sender.source(), kind, null, null, id, null, "{}", false, now, now, 0, 0);
    return keep(session, sender, bare, checked);
  }

  /**
   * @param expected tags of the version the sender read, or *; null if it does not say
   */
  Resource replace(
      StatelessSession session,
      Sender sender,
      Resource.Kind kind,
      String id,
      String expected,
      JsonNode sent) {
    resources.inTurn(session, sender.source());
    var old = read(session, sender, kind, id, expected);
    return keep(session, sender, old, ResourceCheck.checked(sent, kind, sender.schemas()));
  }

  /** RFC 7644, section 3.5.2: all of its operations, or none. */
  Resource patch(
      StatelessSession session,
      Sender sender,
      Resource.Kind kind,
      String id,
      String expected,
      JsonNode sent) {
    var request = request(sent, kind, sender.schemas());
    resources.inTurn(session, sender.source());
    var old = read(session, sender, kind, id, expected);
    var before = whole(session, old);
    var patched = new GenericScimResource(before.deepCopy());
    try {
      request.apply(patched);
      PushPatch.onePrimary(before, patched.getObjectNode());
    } catch (ScimException e) {
      throw ScimErrors.refusal(e);
    }
    return keep(
        session,
        sender,
        old,
        ResourceCheck.checked(patched.getObjectNode(), kind, sender.schemas()));
  }

  /** Whoever it is may be a leaver; that is for somebody here to say. */
  void delete(
      StatelessSession session, Sender sender, Resource.Kind kind, String id, String expected) {
    resources.inTurn(session, sender.source());
    var old = read(session, sender, kind, id, expected);
    if (kind == Resource.Kind.GROUP) {
      resources.emptied(session, old);
    }
    resources.put(session, old.gone(Instant.now()));
  }

  /** Without id, meta and what else is ours to say, but with its members. */
  ObjectNode whole(StatelessSession session, Resource resource) {
    var whole = body(resource);
    if (resource.kind() == Resource.Kind.GROUP) {
      var members = resources.members(session, resource.id());
      if (!members.isEmpty()) {
        var list = whole.putArray(MEMBERS);
        members.forEach(member -> list.addObject().put("value", member));
      }
    }
    return whole;
  }

  static ObjectNode body(Resource resource) {
    try {
      return (ObjectNode) JsonUtils.getObjectReader().readTree(resource.body());
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("It was written by ourselves", e);
    }
  }

  private Resource read(
      StatelessSession session, Sender sender, Resource.Kind kind, String id, String expected) {
    var old = get(session, sender, kind, id);
    if (expected != null && !Shown.isNamed(old, expected)) {
      throw new Refusal(
          Refusal.Kind.STALE,
          new Problem(
              "scim-version-stale",
              "%s is at version %s, not %s.".formatted(id, Shown.tag(old), expected),
              "Somebody wrote it since it was read; their words would be lost.",
              "Read it again, and send what then is to change.",
              Where.field("If-Match")));
    }
    return old;
  }

  private Resource keep(StatelessSession session, Sender sender, Resource old, ObjectNode checked) {
    var members = members(session, sender, checked);
    checked.remove(MEMBERS);
    var next = next(session, old, checked);
    mustBeOnly(session, next);
    if (next.kind() == Resource.Kind.USER) {
      var problems = sender.problems(next, checked);
      if (!problems.isEmpty()) {
        throw new Refusal(Refusal.Kind.INVALID, problems);
      }
      return isSame(old, next) ? old : resources.put(session, next);
    }
    mustKeepItsName(old, next);
    return keepGroup(session, old, next, members);
  }

  private Resource keepGroup(
      StatelessSession session, Resource old, Resource next, Set<String> members) {
    var before = old.version() == 0 ? Set.<String>of() : resources.members(session, next.id());
    var joining = new TreeSet<>(members);
    joining.removeAll(before);
    var leaving = new TreeSet<>(before);
    leaving.removeAll(members);
    if (isSame(old, next) && joining.isEmpty() && leaving.isEmpty()) {
      return old;
    }
    resources.putMembers(session, next, joining, false);
    resources.putMembers(session, next, leaving, true);
    return resources.put(session, next);
  }

  private static boolean isSame(Resource old, Resource next) {
    return old.version() > 0 && old.body().equals(next.body());
  }

  private Resource next(StatelessSession session, Resource old, ObjectNode checked) {
    var isUser = old.kind() == Resource.Kind.USER;
    var name = checked.path(isUser ? "userName" : "displayName").asText();
    var external = checked.path(ResourceCheck.EXTERNAL_ID).asText(null);
    var key = external != null ? external : isUser ? old.id() : name;
    return new Resource(
        old.id(),
        old.source(),
        old.kind(),
        name.toLowerCase(Locale.ROOT),
        external,
        key,
        former(session, old, key),
        checked.toString(),
        false,
        old.createdAt(),
        Instant.now(),
        old.version(),
        old.number());
  }

  /** What was never delivered is known under no key yet. */
  private String former(StatelessSession session, Resource old, String key) {
    var isOther = old.version() > 0 && !old.key().equals(key);
    return isOther && old.number() <= resources.taken(session, old.source())
        ? old.key()
        : old.formerKey();
  }

  private void mustBeOnly(StatelessSession session, Resource next) {
    var problems = new ArrayList<Problem>();
    resources
        .named(session, next.source(), next.kind(), next.uniqueName())
        .filter(other -> !other.id().equals(next.id()))
        .ifPresent(other -> problems.add(taken("name", next.uniqueName(), other)));
    if (next.externalId() != null) {
      resources
          .external(session, next.source(), next.kind(), next.externalId())
          .filter(other -> !other.id().equals(next.id()))
          .ifPresent(
              other -> problems.add(taken(ResourceCheck.EXTERNAL_ID, next.externalId(), other)));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.CONFLICT, problems);
    }
  }

  private static Problem taken(String what, String text, Resource other) {
    return new Problem(
        ScimErrors.TAKEN,
        "The %s %s is that of %s.".formatted(what, text, other.id()),
        "One of the two would be taken for the other.",
        "Send what changed of that one with PATCH or PUT.",
        Where.field(what));
  }

  private static void mustKeepItsName(Resource old, Resource next) {
    if (old.version() > 0 && !old.key().equals(next.key())) {
      throw Refusal.invalid(
          new Problem(
              ScimErrors.READ_ONLY,
              "The group %s would be %s in its application.".formatted(old.key(), next.key()),
              "Its externalId, or failing that its displayName, says which group it is there.",
              "Send a group of that name, and delete this one.",
              Where.field(next.externalId() == null ? "displayName" : ResourceCheck.EXTERNAL_ID)));
    }
  }

  private Set<String> members(StatelessSession session, Sender sender, ObjectNode group) {
    var members = new TreeSet<String>();
    var problems = new ArrayList<Problem>();
    for (var member : group.path(MEMBERS)) {
      var id = member.path("value").asText("");
      var type = member.path("type").asText("User");
      if (!type.equalsIgnoreCase("User")) {
        problems.add(nested(id));
      } else if (resources.get(session, sender.source(), Resource.Kind.USER, id).isEmpty()) {
        problems.add(nobody(id));
      }
      members.add(id);
    }
    if (members.size() > MOST_MEMBERS) {
      problems.add(tooMany(members.size()));
    }
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return members;
  }

  private static Problem nested(String id) {
    return new Problem(
        "scim-group-nested",
        "The member %s is a group itself.".formatted(id),
        "Only people are put into groups here.",
        "Send the people who are in it.",
        Where.field(MEMBERS));
  }

  private static Problem nobody(String id) {
    return new Problem(
        "scim-member-unknown",
        "No user has the id %s.".formatted(id),
        "There is nobody to put into the group.",
        "Send the user first; members are named by the id that was answered then.",
        Where.field(MEMBERS));
  }

  private static Problem tooMany(int members) {
    return new Problem(
        "scim-members-too-many",
        "%,d people would be in the group.".formatted(members),
        "%,d are the most that are compared at once.".formatted(MOST_MEMBERS),
        "Give what everybody has by a rule, not by a group.",
        Where.field(MEMBERS));
  }

  private static void mayHave(Sender sender, Resource.Kind kind) {
    if (!sender.mayHave(kind)) {
      throw new Refusal(
          Refusal.Kind.FORBIDDEN,
          new Problem(
              "scim-groups-not-taken",
              "No groups are taken from %s.".formatted(sender.source()),
              "A group is one of an application, and nobody said of which.",
              "Have the feed's setting groupsIn name the application; or send people only.",
              null));
    }
  }

  private static PatchRequest request(JsonNode sent, Resource.Kind kind, PushSchemas schemas) {
    if (!(sent.path(OPERATIONS) instanceof ArrayNode operations) || operations.isEmpty()) {
      throw Refusal.invalid(PushPatch.notUnderstood("It holds no operation."));
    }
    PushPatch.intoOneForm(operations, kind, schemas);
    try {
      return JsonUtils.nodeToValue(sent, PatchRequest.class);
    } catch (JsonProcessingException e) {
      if (e.getCause() instanceof ScimException amiss) {
        throw ScimErrors.refusal(amiss);
      }
      throw Refusal.invalid(PushPatch.notUnderstood(String.valueOf(e.getOriginalMessage())));
    }
  }
}
