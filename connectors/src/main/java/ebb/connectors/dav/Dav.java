package ebb.connectors.dav;

import ebb.connectors.carry.Content;
import ebb.connectors.http.Clients;
import ebb.connectors.http.Credentials;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.LineProblems;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.StringWriter;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import org.apache.hc.client5.http.classic.methods.HttpUriRequestBase;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.HttpEntity;
import org.apache.hc.core5.http.io.entity.AbstractHttpEntity;
import org.apache.hc.core5.http.io.entity.EntityUtils;
import org.apache.hc.core5.http.io.entity.StringEntity;
import org.apache.hc.core5.io.CloseMode;

/** Requests to a WebDAV server. For any number of threads at a time. */
final class Dav implements AutoCloseable {
  static final String CALDAV = "urn:ietf:params:xml:ns:caldav";
  private static final String ASKED =
      """
      <?xml version="1.0" encoding="utf-8"?>
      <propfind xmlns="DAV:"><prop>%s</prop></propfind>
      """;

  private final String kind;
  private final String application;
  private final String place;
  private final CloseableHttpClient client;
  private final String authorization;

  /**
   * @param kind of what it holds: files, calendars
   */
  Dav(JsonHttp.Line line, String kind) {
    this.kind = kind;
    this.application = line.application();
    this.place = line.base();
    this.client = Clients.of(line);
    this.authorization =
        line.credentials() instanceof Credentials.Basic(var name, var password)
            ? "Basic "
                + Base64.getEncoder()
                    .encodeToString(
                        (name + ":" + password.reveal()).getBytes(StandardCharsets.UTF_8))
            : "";
  }

  String place() {
    return place;
  }

  private interface Reader<T> {
    /** Empty where it is not what was wanted. */
    Optional<T> read(String etag, InputStream in) throws IOException;
  }

  /**
   * What is the same of a resource for as long as its content is (RFC 9110, 8.8.3). A server may
   * call it weak for a moment, and not later.
   */
  static String strong(String etag) {
    return etag.startsWith("W/") ? etag.substring(2) : etag;
  }

  /**
   * @param depth 0 for the resource itself, 1 for what is in it, too
   * @return empty if there is no such resource
   */
  Optional<List<Multistatus.Response>> find(URI at, int depth, String... properties)
      throws Unreachable {
    var request = request("PROPFIND", at);
    request.setHeader("Depth", depth);
    request.setEntity(xml(ASKED.formatted("<" + String.join("/><", properties) + "/>")));
    return read(request, (_, in) -> Optional.of(Multistatus.read(in)));
  }

  /** RFC 4331. */
  OptionalLong room(URI at) throws Unreachable {
    return find(at, 0, "quota-available-bytes").stream()
        .flatMap(List::stream)
        .map(one -> one.properties().getOrDefault("quota-available-bytes", ""))
        .filter(text -> !text.isEmpty())
        .mapToLong(Long::parseLong)
        .findFirst();
  }

  /**
   * Reads a content.
   *
   * @param etag of what is wanted; empty for whatever is there
   * @return empty if it is not there, or another by now
   */
  Optional<String> sha256(URI at, String etag) throws Unreachable {
    try (var content = new Content()) {
      return get(at, etag, content).isPresent() ? Optional.of(content.sha256()) : Optional.empty();
    } catch (IOException e) {
      throw unreachable(e);
    }
  }

  /**
   * @return its ETag, empty if the server gives none; nothing if it is not there, or another by now
   */
  Optional<String> get(URI at, String etag, OutputStream to) throws Unreachable {
    return read(
        request("GET", at),
        (found, in) -> {
          if (!etag.isEmpty() && !strong(found).equals(etag)) {
            return Optional.empty();
          }
          in.transferTo(to);
          return Optional.of(strong(found));
        });
  }

  /**
   * Where something is already nothing is written.
   *
   * @return the status
   */
  int put(URI at, Content content, ContentType type) throws Unreachable {
    var request = request("PUT", at);
    request.setHeader("If-None-Match", "*");
    request.setEntity(new AsItIs(content, type));
    return send(request);
  }

  /**
   * Where another is by now nothing is written.
   *
   * @return the status
   */
  int replace(URI at, String etag, Content content, ContentType type) throws Unreachable {
    var request = request("PUT", at);
    request.setHeader("If-Match", etag);
    request.setEntity(new AsItIs(content, type));
    return send(request);
  }

  /** RFC 4791, 5.3.1. */
  int makeCalendar(URI at, String name) throws Unreachable {
    var request = request("MKCALENDAR", at);
    request.setEntity(xml(calendar(name)));
    return send(request);
  }

  private static String calendar(String name) {
    var text = new StringWriter();
    try {
      var xml = XMLOutputFactory.newInstance().createXMLStreamWriter(text);
      xml.writeStartDocument();
      xml.writeStartElement("C", "mkcalendar", CALDAV);
      xml.writeNamespace("C", CALDAV);
      xml.writeDefaultNamespace("DAV:");
      xml.writeStartElement("set");
      xml.writeStartElement("prop");
      xml.writeStartElement("displayname");
      xml.writeCharacters(name);
      xml.writeEndDocument();
      xml.close();
    } catch (XMLStreamException e) {
      throw new IllegalStateException("Nothing is written to but memory", e);
    }
    return text.toString();
  }

  private static StringEntity xml(String text) {
    return new StringEntity(text, ContentType.APPLICATION_XML.withCharset(StandardCharsets.UTF_8));
  }

  int makeCollection(URI at) throws Unreachable {
    return send(request("MKCOL", at));
  }

  /**
   * Where something is already nothing is written.
   *
   * @return the status
   */
  int copy(URI from, URI to) throws Unreachable {
    var request = request("COPY", from);
    request.setHeader("Destination", to);
    request.setHeader("Overwrite", "F");
    request.setHeader("Depth", 0);
    return send(request);
  }

  private HttpUriRequestBase request(String method, URI at) {
    var request = new HttpUriRequestBase(method, at);
    request.setHeader("Authorization", authorization);
    return request;
  }

  private <T> Optional<T> read(HttpUriRequestBase request, Reader<T> reader) throws Unreachable {
    try {
      var refused = new int[1];
      var read =
          client.execute(
              request,
              response -> {
                var status = response.getCode();
                if (status == 404 || status == 410 || status == 412) {
                  EntityUtils.consume(response.getEntity());
                  return Optional.<T>empty();
                }
                if (status >= 300) {
                  EntityUtils.consume(response.getEntity());
                  refused[0] = status;
                  return Optional.<T>empty();
                }
                var etag = response.getFirstHeader("ETag");
                return reader.read(
                    etag == null ? "" : etag.getValue(), content(response.getEntity()));
              });
      if (refused[0] != 0) {
        throw refused(request, refused[0]);
      }
      return read;
    } catch (IOException e) {
      throw unreachable(e);
    }
  }

  private static InputStream content(HttpEntity entity) throws IOException {
    return entity == null ? InputStream.nullInputStream() : entity.getContent();
  }

  private int send(HttpUriRequestBase request) throws Unreachable {
    try {
      int answer =
          client.execute(
              request,
              response -> {
                EntityUtils.consume(response.getEntity());
                return response.getCode();
              });
      var mayBeMissing = request.getMethod().equals("COPY");
      if (answer == 401 || (answer == 403 && !mayBeMissing)) {
        throw refused(request, answer);
      }
      return answer;
    } catch (IOException e) {
      throw unreachable(e);
    }
  }

  Unreachable unreachable(IOException e) {
    return new Unreachable(
        new LineProblems(application, place)
            .of(e)
            .orElseGet(
                () ->
                    new Problem(
                        kind + "-no-answer",
                        "The server of %s of %s does not answer at %s."
                            .formatted(kind, application, place),
                        String.valueOf(e.getMessage()),
                        "See whether it is up. What was carried stands; Ebb goes on by itself.",
                        null)),
        e);
  }

  private Unreachable refused(HttpUriRequestBase request, int status) {
    var isNotAllowed = Map.of(401, true, 403, true).getOrDefault(status, false);
    return new Unreachable(
        new Problem(
            kind + (isNotAllowed ? "-not-allowed" : "-answered-" + status),
            "The server of %s of %s answered %d to %s of %s."
                .formatted(kind, application, status, request.getMethod(), request.getPath()),
            isNotAllowed
                ? "It does not let Ebb do that."
                : "It takes the request for wrong, or is not well.",
            isNotAllowed
                ? "Give who signs in the permission there, or correct the password."
                : "See what it says in its own log; it is tried again.",
            null),
        null);
  }

  @Override
  public void close() {
    client.close(CloseMode.GRACEFUL);
  }

  /** Can be read more than once. */
  private static final class AsItIs extends AbstractHttpEntity {
    private final Content content;

    AsItIs(Content content, ContentType type) {
      super(type, null);
      this.content = content;
    }

    @Override
    public boolean isRepeatable() {
      return true;
    }

    @Override
    public long getContentLength() {
      return content.size();
    }

    @Override
    public boolean isStreaming() {
      return false;
    }

    @Override
    public InputStream getContent() throws IOException {
      return content.read();
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
      content.writeTo(out);
    }

    @Override
    public void close() {}
  }
}
