package ebb.connectors.http;

import ebb.connectors.http.JsonHttp.Answer;
import ebb.core.problem.Problem;
import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.UnknownHostException;
import javax.net.ssl.SSLHandshakeException;
import javax.net.ssl.SSLPeerUnverifiedException;
import org.apache.hc.client5.http.ConnectTimeoutException;
import tools.jackson.core.JacksonException;

/** What can be amiss between Ebb and an application, in words. */
final class HttpProblems {
  private final String application;
  private final String base;
  private final LineProblems line;

  HttpProblems(String application, String base) {
    this.application = application;
    this.base = base;
    this.line = new LineProblems(application, base);
  }

  /** Why nothing came back, or nothing that can be understood. */
  Problem of(Exception e) {
    return line.of(e)
        .orElseGet(
            () ->
                e instanceof JacksonException
                    ? nonsense()
                    : isBeforeSending(e) ? down(e) : lost(e));
  }

  /** Whether it went wrong before anything was sent. */
  static boolean isBeforeSending(Exception e) {
    // Shaking hands comes before anything is sent; a secure line can break later, too.
    return e instanceof ConnectException
        || e instanceof ConnectTimeoutException
        || e instanceof UnknownHostException
        || e instanceof NoRouteToHostException
        || e instanceof SSLHandshakeException
        || e instanceof SSLPeerUnverifiedException;
  }

  private Problem down(Exception e) {
    return new Problem(
        "application-down",
        "%s cannot be reached at %s.".formatted(application, base),
        "Connecting failed: " + e.getMessage() + ".",
        "See whether it runs; its changes wait and are tried again by themselves.",
        null);
  }

  private Problem lost(Exception e) {
    return new Problem(
        "answer-lost",
        "%s gave no usable answer.".formatted(application),
        String.valueOf(e.getMessage()),
        "It is asked what is true before anything is sent again; nothing need be done.",
        null);
  }

  private Problem nonsense() {
    return new Problem(
        "answer-not-json",
        "%s answered with something that is not JSON.".formatted(application),
        "A proxy or sign-in page may stand before it, or the answer was cut off.",
        "It is asked again; if that goes on, see what stands at %s.".formatted(base),
        null);
  }

  Problem noToken(Credentials.Client client, Answer answer) {
    var why = answer.body() == null ? "" : answer.body().path("error").asString("");
    return new Problem(
        "token-refused",
        "%s gives the client %s no token (%d)."
            .formatted(client.tokenAddress(), client.clientId(), answer.status()),
        why.isEmpty() ? "It gave no reason." : "It says: " + why + ".",
        "Correct the client's name or secret; the changes are tried again.",
        null);
  }

  Problem nothingAt(String path) {
    return new Problem(
        "application-answered-404",
        "%s has nothing at %s.".formatted(application, base + path),
        "The address may be wrong.",
        "Correct the address.",
        null);
  }

  /** What an answer that is no success says. */
  Problem of(Answer answer) {
    return switch (answer.status()) {
      case 401 ->
          new Problem(
              "application-knows-us-not",
              "%s does not know Ebb (401).".formatted(application),
              detail(answer),
              "Give Ebb a token or password that is good; the changes are tried again.",
              null);
      case 403 ->
          new Problem(
              "application-not-allowed",
              "%s does not let Ebb do this (403).".formatted(application),
              detail(answer),
              "Give Ebb the permission there; the changes are tried again.",
              null);
      case 412 ->
          new Problem(
              "changed-meanwhile",
              "Somebody else changed it in %s at the same moment (412).".formatted(application),
              detail(answer),
              "Nothing need be done: it is read and tried again.",
              null);
      case 429 ->
          new Problem(
              "application-busy",
              "%s asks for fewer requests (429).".formatted(application),
              detail(answer),
              "Nothing need be done: Ebb slows down and tries again.",
              null);
      default -> refused(answer.status(), detail(answer));
    };
  }

  private Problem refused(int status, String detail) {
    return new Problem(
        "application-answered-" + status,
        "%s answered %d: %s".formatted(application, status, detail),
        "The application takes the request for wrong, or is not well.",
        status >= 500
            ? "Nothing need be done: it is tried again."
            : "Correct the value or the rule it comes from, then retry the change.",
        null);
  }

  private static String detail(Answer answer) {
    return answer.body() == null
        ? "no reason given"
        : answer.body().path("detail").asString("no reason given");
  }
}
