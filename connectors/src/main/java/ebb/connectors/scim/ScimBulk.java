package ebb.connectors.scim;

import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.JsonHttp.Answer;
import ebb.connectors.http.JsonHttp.NoAnswer;
import ebb.connectors.http.Note;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Sends together what several threads want to write at the same moment (RFC 7644, 3.7): while one
 * request is under way, those that come meanwhile gather for the next. Whoever is alone waits for
 * nobody, and is sent as a request of its own.
 */
final class ScimBulk implements ScimWrites {
  /** Characters around the operations of a request, and around each. */
  private static final int AROUND = 200;

  private final JsonHttp http;
  private final ScimProblems problems;
  private final int largest;
  private final ConcurrentLinkedQueue<Write> waiting = new ConcurrentLinkedQueue<>();
  private final ReentrantLock turn = new ReentrantLock();
  private int most;

  /** What somebody wants to write, and what came of it; answered under the lock. */
  private static final class Write {
    private final String method;
    private final String path;
    private final JsonNode body;
    private final String etag;
    private final int size;
    private Answer answer;
    private NoAnswer none;

    Write(String method, String path, JsonNode body, String etag) {
      this.method = method;
      this.path = path;
      this.body = body;
      this.etag = etag;
      this.size = AROUND + path.length() + (body == null ? 0 : body.toString().length());
    }

    boolean isOver() {
      return answer != null || none != null;
    }

    ObjectNode operation(String id) {
      var operation =
          JsonHttp.JSON
              .createObjectNode()
              .put("method", method)
              .put("path", path)
              .put("bulkId", id);
      if (etag != null) {
        operation.put("version", etag);
      }
      return body == null ? operation : operation.set("data", body);
    }
  }

  /**
   * @param most operations in one request
   * @param largest characters of one request
   */
  ScimBulk(JsonHttp http, ScimProblems problems, int most, int largest) {
    this.http = http;
    this.problems = problems;
    this.most = most;
    this.largest = largest;
  }

  @Override
  public Answer send(String method, String path, JsonNode body, String etag) throws NoAnswer {
    var mine = new Write(method, path, body, etag);
    var note = Note.of(method + " " + path, body);
    waiting.add(mine);
    turn.lock();
    try {
      while (!mine.isOver()) {
        sendNext();
      }
    } finally {
      turn.unlock();
    }
    if (mine.none != null) {
      note.failed(mine.none.problem());
      throw mine.none;
    }
    note.answered(
        mine.answer.status(), mine.answer.body() == null ? "" : mine.answer.body().toString());
    return mine.answer;
  }

  private void sendNext() {
    var part = new ArrayList<Write>();
    int size = AROUND;
    for (var next = waiting.peek(); next != null && fits(next, part, size); next = waiting.peek()) {
      size += next.size;
      part.add(waiting.remove());
    }
    if (part.size() == 1) {
      sendAlone(part.getFirst());
    } else {
      sendTogether(part);
    }
  }

  private boolean fits(Write next, List<Write> part, int size) {
    return part.isEmpty() || (part.size() < most && size + next.size <= largest);
  }

  private void sendAlone(Write write) {
    try {
      write.answer =
          http.sendUnnoted(
              write.method,
              write.path,
              write.body,
              write.etag == null ? Map.of() : Map.of("If-Match", write.etag));
    } catch (NoAnswer e) {
      write.none = e;
    }
  }

  private void sendTogether(List<Write> part) {
    var body = JsonHttp.JSON.createObjectNode();
    body.putArray("schemas").add("urn:ietf:params:scim:api:messages:2.0:BulkRequest");
    var operations = body.putArray("Operations");
    for (int i = 0; i < part.size(); i++) {
      operations.add(part.get(i).operation(Integer.toString(i)));
    }
    try {
      answer(part, http.sendUnnoted("POST", "/Bulk", body, Map.of()));
    } catch (NoAnswer e) {
      part.forEach(write -> write.none = e);
    }
  }

  private void answer(List<Write> part, Answer all) {
    switch (all.status()) {
      case 400, 404, 405, 413, 501 -> {
        // The request was turned away as a whole: too large, or of a kind that is not taken here.
        most = all.status() == 400 || all.status() == 413 ? Math.max(1, part.size() / 2) : 1;
        part.forEach(this::sendAlone);
      }
      default -> {
        var answers = all.isSuccess() ? answers(all) : null;
        for (int i = 0; i < part.size(); i++) {
          var write = part.get(i);
          write.answer = answers == null ? all : answers.get(Integer.toString(i));
          if (write.answer == null) {
            write.none =
                new NoAnswer(
                    true, problems.unansweredInBulk(write.method + " " + write.path), null);
          }
        }
      }
    }
  }

  private static Map<String, Answer> answers(Answer all) {
    var answers = new HashMap<String, Answer>();
    if (all.body() != null) {
      for (var operation : all.body().path("Operations")) {
        answers.put(operation.path("bulkId").asString(""), answer(operation, all));
      }
    }
    return answers;
  }

  private static Answer answer(JsonNode operation, Answer all) {
    var body = operation.path("response");
    return new Answer(
        status(operation.path("status")),
        body.isObject() ? body : null,
        operation.path("version").asString(null),
        null,
        all.date());
  }

  /** Text as in RFC 7644, 3.7.3; a number, or an object with a code, elsewhere. */
  private static int status(JsonNode status) {
    return status.isObject() ? status.path("code").asInt(500) : status.asInt(500);
  }
}
