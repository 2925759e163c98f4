package ebb.service.push;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.databind.node.TextNode;
import com.unboundid.scim2.common.utils.JsonUtils;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.web.ProblemAnswers;
import ebb.store.Database;
import ebb.store.push.Resource;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.regex.Pattern;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/**
 * Many operations in one request (RFC 7644, section 3.7). Each stands for itself; one that names
 * what another makes comes after it, wherever it stands.
 */
@Component
final class Bulk {
  static final int MOST_OPERATIONS = 10_000;
  static final int MOST_BYTES = 20 * 1024 * 1024;

  private static final String BULK_ID = "bulkId:";
  private static final Pattern PATH = Pattern.compile("/(Users|Groups)(?:/([^/]+))?");

  private final Database database;
  private final PushDesk desk;

  Bulk(Database database, PushDesk desk) {
    this.database = database;
    this.desk = desk;
  }

  /** A BulkResponse; its operations are in the order of the request. */
  ObjectNode run(Sender sender, JsonNode request, String address) {
    var operations = operations(request);
    var most = request.path("failOnErrors").asInt(Integer.MAX_VALUE);
    var run = new Run(sender, address, most < 1 ? Integer.MAX_VALUE : most);
    run.all(operations);
    // What was written for now so far is brought onto the disk.
    database.writeAll(_ -> {});
    var out = JsonUtils.getJsonNodeFactory().objectNode();
    out.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:BulkResponse");
    var list = out.putArray("Operations");
    for (int i = 0; i < operations.size(); i++) {
      Optional.ofNullable(run.answers.get(i)).ifPresent(list::add);
    }
    return out;
  }

  private static List<JsonNode> operations(JsonNode request) {
    var operations = new ArrayList<JsonNode>();
    request.path("Operations").forEach(operations::add);
    if (operations.isEmpty()) {
      throw Refusal.invalid(
          new Problem(
              ScimErrors.SYNTAX,
              "The request holds no Operations.",
              "There is nothing to do.",
              "Send Operations as RFC 7644, section 3.7 describes them.",
              Where.field("Operations")));
    }
    if (operations.size() > MOST_OPERATIONS) {
      throw new Refusal(
          Refusal.Kind.TOO_LARGE,
          new Problem(
              "scim-bulk-too-large",
              "The request holds %,d operations.".formatted(operations.size()),
              "Up to %,d are carried out in one.".formatted(MOST_OPERATIONS),
              "Send it in parts; /scim/v2/ServiceProviderConfig names the most.",
              Where.field("Operations")));
    }
    return operations;
  }

  /** One request being carried out. */
  private final class Run {
    private final Sender sender;
    private final String address;
    private final int mostErrors;
    private final Map<String, String> made = new HashMap<>();
    private final Map<Integer, ObjectNode> answers = new HashMap<>();
    private int errors;

    Run(Sender sender, String address, int mostErrors) {
      this.sender = sender;
      this.address = address;
      this.mostErrors = mostErrors;
    }

    void all(List<JsonNode> operations) {
      var left = new ArrayDeque<Integer>();
      for (int i = 0; i < operations.size(); i++) {
        left.add(i);
      }
      // One that waits goes to the end; when all that are left wait in turn, they wait for ever.
      for (int waited = 0; !left.isEmpty() && errors < mostErrors; ) {
        var next = left.remove();
        var operation = operations.get(next);
        var resolved = resolved(operation);
        if (resolved.isPresent()) {
          answers.put(next, answer(resolved.get()));
          waited = 0;
        } else if (waited++ < left.size()) {
          left.add(next);
        } else {
          answers.put(next, failed(operation, Refusal.conflict(leadsNowhere(operation))));
        }
      }
    }

    private ObjectNode answer(JsonNode operation) {
      try {
        return carriedOut(operation);
      } catch (Refusal refusal) {
        return failed(operation, refusal);
      }
    }

    private ObjectNode failed(JsonNode operation, Refusal refusal) {
      errors++;
      var out = head(operation, ProblemAnswers.status(refusal.kind()));
      out.set("response", ScimErrors.body(refusal));
      return out;
    }

    private ObjectNode carriedOut(JsonNode operation) {
      var method = operation.path("method").asText("").toUpperCase(Locale.ROOT);
      var path = PATH.matcher(operation.path("path").asText(""));
      if (!path.matches() || (path.group(2) == null) != method.equals("POST")) {
        throw Refusal.invalid(notAnOperation(operation));
      }
      if (method.equals("POST") && operation.path("bulkId").asText("").isEmpty()) {
        throw Refusal.invalid(withoutBulkId(operation));
      }
      var kind = path.group(1).equals("Users") ? Resource.Kind.USER : Resource.Kind.GROUP;
      var id = path.group(2);
      var data = operation.path("data");
      var version = operation.path("version").asText(null);
      var kept = new AtomicReference<Resource>();
      database.writeForNow(
          session ->
              kept.set(
                  switch (method) {
                    case "POST" -> desk.create(session, sender, kind, data);
                    case "PUT" -> desk.replace(session, sender, kind, id, version, data);
                    case "PATCH" -> desk.patch(session, sender, kind, id, version, data);
                    case "DELETE" -> {
                      desk.delete(session, sender, kind, id, version);
                      yield null;
                    }
                    default -> throw Refusal.invalid(notAnOperation(operation));
                  }));
      var resource = kept.get();
      if (resource == null) {
        return head(operation, HttpStatus.NO_CONTENT);
      }
      var out = head(operation, method.equals("POST") ? HttpStatus.CREATED : HttpStatus.OK);
      out.put("location", Shown.location(resource, address));
      out.put("version", Shown.tag(resource));
      var bulkId = operation.path("bulkId").asText("");
      if (!bulkId.isEmpty()) {
        made.put(bulkId, resource.id());
      }
      return out;
    }

    private ObjectNode head(JsonNode operation, HttpStatus status) {
      var out = JsonUtils.getJsonNodeFactory().objectNode();
      for (var name : List.of("method", "bulkId")) {
        if (operation.hasNonNull(name)) {
          out.set(name, operation.get(name));
        }
      }
      var path = PATH.matcher(operation.path("path").asText(""));
      if (path.matches() && path.group(2) != null) {
        out.put("location", address + operation.path("path").asText());
      }
      return out.put("status", Integer.toString(status.value()));
    }

    /** The operation with ids for what it names by bulkId; empty if one is not made yet. */
    private Optional<JsonNode> resolved(JsonNode operation) {
      var copy = (ObjectNode) operation.deepCopy();
      var path = copy.path("path").asText("");
      var at = path.indexOf(BULK_ID);
      if (at >= 0) {
        var id = made.get(path.substring(at + BULK_ID.length()));
        if (id == null) {
          return Optional.empty();
        }
        copy.put("path", path.substring(0, at) + id);
      }
      return resolve(copy.path("data")) ? Optional.of(copy) : Optional.empty();
    }

    private boolean resolve(JsonNode node) {
      if (node instanceof ObjectNode object) {
        var names = new ArrayList<String>();
        object.fieldNames().forEachRemaining(names::add);
        for (var name : names) {
          var id = id(object.get(name));
          if (id.isPresent()) {
            object.set(name, id.get());
          } else if (names(object.get(name)) || !resolve(object.get(name))) {
            return false;
          }
        }
      } else if (node instanceof ArrayNode list) {
        for (int i = 0; i < list.size(); i++) {
          var id = id(list.get(i));
          if (id.isPresent()) {
            list.set(i, id.get());
          } else if (names(list.get(i)) || !resolve(list.get(i))) {
            return false;
          }
        }
      }
      return true;
    }

    private static boolean names(JsonNode node) {
      return node.isTextual() && node.asText().startsWith(BULK_ID);
    }

    private Optional<JsonNode> id(JsonNode node) {
      return names(node)
          ? Optional.ofNullable(made.get(node.asText().substring(BULK_ID.length())))
              .map(TextNode::valueOf)
          : Optional.empty();
    }
  }

  private static Problem notAnOperation(JsonNode operation) {
    return new Problem(
        ScimErrors.SYNTAX,
        "%s %s is no operation."
            .formatted(operation.path("method").asText("?"), operation.path("path").asText("?")),
        "POST goes to /Users or /Groups; PUT, PATCH and DELETE to one of those there are.",
        "Correct method and path.",
        Where.field("path"));
  }

  private static Problem withoutBulkId(JsonNode operation) {
    return new Problem(
        ScimErrors.SYNTAX,
        "POST %s has no bulkId.".formatted(operation.path("path").asText()),
        "Without one, what becomes of it cannot be told from the answer.",
        "Give each POST a bulkId of its own (RFC 7644, section 3.7).",
        Where.field("bulkId"));
  }

  private static Problem leadsNowhere(JsonNode operation) {
    return new Problem(
        "scim-bulk-id-unknown",
        "%s %s names a bulkId that no operation before it made."
            .formatted(operation.path("method").asText(), operation.path("path").asText()),
        "That operation failed, or is not there, or waits for this one.",
        "Make each first, and let them name each other then.",
        Where.field("data"));
  }
}
