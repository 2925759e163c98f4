package ebb.service.push;

import com.fasterxml.jackson.databind.node.ObjectNode;
import ebb.store.push.Resource;
import java.time.temporal.ChronoUnit;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Resources as senders see them. */
@Component
final class Shown {
  private final PushDesk desk;

  Shown(PushDesk desk) {
    this.desk = desk;
  }

  /**
   * @param address of the interface, without a slash at its end
   */
  ObjectNode of(StatelessSession session, Resource resource, String address) {
    var out = desk.whole(session, resource);
    for (var member : out.path("members")) {
      ((ObjectNode) member)
          .put("type", "User")
          .put("$ref", "%s/Users/%s".formatted(address, member.path("value").asText()));
    }
    out.put(ResourceCheck.ID, resource.id());
    var meta = out.putObject(ResourceCheck.META);
    meta.put("resourceType", type(resource.kind()));
    meta.put("created", resource.createdAt().truncatedTo(ChronoUnit.MILLIS).toString());
    meta.put("lastModified", resource.editedAt().truncatedTo(ChronoUnit.MILLIS).toString());
    meta.put("location", location(resource, address));
    meta.put("version", tag(resource));
    return out;
  }

  static String type(Resource.Kind kind) {
    return kind == Resource.Kind.USER ? "User" : "Group";
  }

  static String location(Resource resource, String address) {
    return "%s/%ss/%s".formatted(address, type(resource.kind()), resource.id());
  }

  /** The ETag: weak, as members may change in their order (RFC 7644, section 3.14). */
  static String tag(Resource resource) {
    return "W/\"%d\"".formatted(resource.version());
  }

  /**
   * Whether a list of tags, or *, names the resource as it is (RFC 9110, 13.1.2): whether a tag is
   * written as weak makes no odds.
   *
   * @param tags null names nothing
   */
  static boolean isNamed(Resource resource, String tags) {
    if (tags == null) {
      return false;
    }
    var own = tag(resource).substring("W/".length());
    return Stream.of(tags.split(","))
        .map(String::strip)
        .anyMatch(tag -> tag.equals("*") || tag.equals(own) || tag.equals("W/" + own));
  }
}
