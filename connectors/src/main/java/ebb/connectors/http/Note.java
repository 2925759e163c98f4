package ebb.connectors.http;

import ebb.core.application.Wire;
import ebb.core.application.Wire.Exchange;
import ebb.core.problem.Problem;
import java.time.Instant;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What is noted of one request, if anybody wants to know. Secrets are left out. */
public sealed interface Note {
  /**
   * @param body null for none
   */
  static Note of(String what, JsonNode body) {
    return Wire.isNoted()
        ? new Wanted(Instant.now(), body == null ? what : what + "\n" + withoutSecrets(body))
        : Unwanted.NOTE;
  }

  /** The same, of whose answer only the status is noted. */
  Note secret();

  void answered(int status, String body);

  void failed(Problem problem);

  private static String withoutSecrets(JsonNode body) {
    var text = body.toString();
    if (!text.contains("password")) {
      return text;
    }
    var blanked = (ObjectNode) body.deepCopy();
    if (blanked.has("password")) {
      blanked.put("password", "(secret)");
    }
    for (var operation : blanked.path("Operations")) {
      if (operation.path("path").asString("").equals("password")
          && operation instanceof ObjectNode set) {
        set.put("value", "(secret)");
      }
    }
    return blanked.toString();
  }

  /** Nobody wants to know. */
  enum Unwanted implements Note {
    NOTE;

    @Override
    public Note secret() {
      return this;
    }

    @Override
    public void answered(int status, String body) {}

    @Override
    public void failed(Problem problem) {}
  }

  /** Somebody wants to know. */
  final class Wanted implements Note {
    private final Instant askedAt;
    private final String request;
    private boolean isAnswered;

    Wanted(Instant askedAt, String request) {
      this.askedAt = askedAt;
      this.request = request;
    }

    @Override
    public Note secret() {
      return new Sealed(this);
    }

    @Override
    public void answered(int status, String body) {
      isAnswered = true;
      note(body.isEmpty() ? "" + status : status + "\n" + body);
    }

    @Override
    public void failed(Problem problem) {
      // What came back and could not be understood says more than that.
      if (!isAnswered) {
        note(problem.what() + " " + problem.why());
      }
    }

    private void note(String answer) {
      Wire.note(new Exchange(askedAt, Instant.now(), request, answer));
    }
  }

  /** Somebody wants to know, and must not see what came back. */
  record Sealed(Wanted note) implements Note {
    @Override
    public Note secret() {
      return this;
    }

    @Override
    public void answered(int status, String body) {
      note.answered(status, "");
    }

    @Override
    public void failed(Problem problem) {
      note.failed(problem);
    }
  }
}
