package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.core.application.Capabilities;
import ebb.core.application.Inspection;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.problem.Problem;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Looks at what Ebb may do in an application, and writes nothing there. */
final class ScimInspection {
  /** Nobody has this id: what is asked of it can change nothing (RFC 9562, 5.9). */
  private static final String NOBODY = "00000000-0000-0000-0000-000000000000";

  private final JsonHttp http;
  private final ScimFeatures features;
  private final List<Tried> tried = new ArrayList<>();
  private Duration ahead;

  ScimInspection(JsonHttp http, ScimFeatures features) {
    this.http = http;
    this.features = features;
  }

  Inspection of(Capabilities capabilities) {
    reads("list accounts", features.users(), "accounts there are not found, nor seen");
    if (features.groups() != null) {
      reads("list groups", features.groups(), Part.GROUPS.without());
    }
    writes("change accounts", features.users(), "nothing can be carried out there");
    if (features.groups() != null) {
      writes("change groups", features.groups(), Part.GROUPS.without());
    }
    return new Inspection(capabilities, List.copyOf(tried), ahead);
  }

  private void reads(String what, String endpoint, String without) {
    var query = features.cursors() ? "?cursor=&count=1" : "?startIndex=1&count=1";
    ask(what, "GET", endpoint + query, without);
  }

  /** An account nobody has is not found by those who may write; others are turned away before. */
  private void writes(String what, String endpoint, String without) {
    ask(what, features.patches() ? "PATCH" : "PUT", endpoint + "/" + NOBODY, without);
  }

  private void ask(String what, String method, String path, String without) {
    try {
      var body =
          switch (method) {
            case "GET" -> null;
            case "PATCH" -> {
              var patch = JsonHttp.JSON.createObjectNode();
              patch.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:PatchOp");
              patch
                  .putArray("Operations")
                  .add(ScimPatch.operation("replace", "active").put("value", false));
              yield patch;
            }
            default -> JsonHttp.JSON.createObjectNode().put("userName", NOBODY);
          };
      var answer = http.send(method, path, body, Map.of());
      noteTime(answer);
      note(what, isAllowed(method, answer) ? null : http.problem(answer), without);
    } catch (NoAnswer e) {
      note(what, e.problem(), without);
    }
  }

  private static boolean isAllowed(String method, Answer answer) {
    return method.equals("GET")
        ? answer.isSuccess()
        : answer.status() != 401 && answer.status() != 403 && answer.status() < 500;
  }

  private void note(String what, Problem problem, String without) {
    tried.add(new Tried(what, problem, problem == null ? "" : without));
  }

  private void noteTime(Answer answer) {
    if (ahead == null && answer.date() != null) {
      ahead = Duration.between(Instant.now(), answer.date()).truncatedTo(ChronoUnit.SECONDS);
    }
  }
}
