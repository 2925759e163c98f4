package ebb.standins;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.ResourceConflictException;
import com.unboundid.scim2.common.exceptions.ResourceNotFoundException;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/** Resources of one type, found by id, name and external id, now or as they were a while ago. */
final class Shelf {
  /** A resource since a moment; null once it was taken away. */
  private record Kept(long since, ObjectNode resource) {}

  private final String type;
  private final String nameAttribute;
  private final Map<String, Deque<Kept>> byId = new LinkedHashMap<>();
  private final Map<String, String> byName = new HashMap<>();
  private final Map<String, String> byExternalId = new HashMap<>();
  private long versions;

  Shelf(String type, String nameAttribute) {
    this.type = type;
    this.nameAttribute = nameAttribute;
  }

  int count() {
    return byName.size();
  }

  /** To be changed only by {@link #keep}. */
  ObjectNode get(String id, Duration ago) throws ScimException {
    return find(id, ago)
        .orElseThrow(() -> new ResourceNotFoundException("There is no " + type + " " + id));
  }

  Optional<ObjectNode> find(String id, Duration ago) {
    var kept = byId.get(id);
    return kept == null ? Optional.empty() : asOf(kept, ago);
  }

  Optional<ObjectNode> byName(String name, Duration ago) {
    return Optional.ofNullable(byName.get(folded(name))).flatMap(id -> find(id, ago));
  }

  Optional<ObjectNode> byExternalId(String externalId, Duration ago) {
    return Optional.ofNullable(byExternalId.get(externalId)).flatMap(id -> find(id, ago));
  }

  Stream<ObjectNode> all(Duration ago) {
    return byId.values().stream().flatMap(kept -> asOf(kept, ago).stream());
  }

  /** Adds a resource under a new id. */
  ObjectNode add(ObjectNode resource, Duration settling) throws ScimException {
    return keep(UUID.randomUUID().toString(), resource, settling);
  }

  /** Keeps a resource as it is from now on; one that did not change keeps its version. */
  ObjectNode keep(String id, ObjectNode resource, Duration settling) throws ScimException {
    var name = folded(resource.path(nameAttribute).asText());
    if (!id.equals(byName.getOrDefault(name, id))) {
      throw new ResourceConflictException(
          nameAttribute + " " + resource.path(nameAttribute).asText() + " is taken",
          "uniqueness",
          null);
    }
    var before = find(id, Duration.ZERO).orElse(null);
    resource.put("id", id);
    resource.remove("meta");
    if (before != null) {
      var old = before.deepCopy();
      old.remove("meta");
      if (old.equals(resource)) {
        return before;
      }
      forget(before);
    }
    resource
        .putObject("meta")
        .put("resourceType", type)
        .put("lastModified", Instant.now().toString())
        .put("version", "W/\"%d\"".formatted(++versions));
    byName.put(name, id);
    if (resource.hasNonNull("externalId")) {
      byExternalId.put(resource.path("externalId").asText(), id);
    }
    put(id, resource, settling);
    return resource;
  }

  void remove(String id, Duration settling) {
    find(id, Duration.ZERO)
        .ifPresent(
            resource -> {
              forget(resource);
              put(id, null, settling);
            });
  }

  private void forget(ObjectNode resource) {
    byName.remove(folded(resource.path(nameAttribute).asText()));
    byExternalId.remove(resource.path("externalId").asText());
  }

  private void put(String id, ObjectNode resource, Duration settling) {
    if (!settling.isZero()) {
      byId.computeIfAbsent(id, _ -> new ArrayDeque<>())
          .addLast(new Kept(System.nanoTime(), resource));
    } else if (resource == null) {
      byId.remove(id);
    } else {
      var kept = byId.computeIfAbsent(id, _ -> new ArrayDeque<>(1));
      kept.clear();
      kept.add(new Kept(Long.MIN_VALUE, resource));
    }
  }

  private static Optional<ObjectNode> asOf(Deque<Kept> kept, Duration ago) {
    if (ago.isZero()) {
      return Optional.ofNullable(kept.getLast().resource());
    }
    var then = System.nanoTime() - ago.toNanos();
    while (kept.size() > 1 && kept.stream().skip(1).findFirst().orElseThrow().since() <= then) {
      kept.removeFirst();
    }
    var first = kept.getFirst();
    return first.since() <= then ? Optional.ofNullable(first.resource()) : Optional.empty();
  }

  private static String folded(String name) {
    return Objects.requireNonNull(name).toLowerCase(Locale.ROOT);
  }
}
