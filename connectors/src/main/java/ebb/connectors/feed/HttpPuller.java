package ebb.connectors.feed;

import static java.util.Locale.ROOT;

import ebb.core.application.Secret;
import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.apache.hc.client5.http.classic.methods.HttpGet;
import org.apache.hc.client5.http.config.ConnectionConfig;
import org.apache.hc.client5.http.config.RequestConfig;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.client5.http.routing.RoutingSupport;
import org.apache.hc.core5.http.ClassicHttpResponse;
import org.apache.hc.core5.http.HttpEntity;
import org.apache.hc.core5.http.HttpException;
import org.apache.hc.core5.http.HttpHeaders;
import org.apache.hc.core5.http.HttpStatus;
import org.apache.hc.core5.util.Timeout;

/**
 * Gets a list over HTTP: asks whether it has changed (RFC 9110, section 13.1), follows to further
 * pages (RFC 8288, relation "next") and takes nothing that did not arrive whole.
 */
public final class HttpPuller implements Puller {
  private static final int MOST_REDIRECTS = 5;
  private static final int MOST_PAGES = 10_000;
  private static final int HEAD = 64 * 1024;
  private static final Duration CONNECT = Duration.ofSeconds(10);
  private static final Duration SILENCE = Duration.ofSeconds(60);
  private static final Pattern NEXT =
      Pattern.compile("<([^>]*)>[^,]*;\\s*rel=\"?next\"?", Pattern.CASE_INSENSITIVE);
  private static final Set<Integer> REDIRECTS = Set.of(301, 302, 303, 307, 308);
  private static final Set<Integer> NOT_ALLOWED =
      Set.of(HttpStatus.SC_UNAUTHORIZED, HttpStatus.SC_FORBIDDEN);

  private final URI address;
  private final String authorization;
  private final long largest;
  private final Duration longest;

  /**
   * @param secret a bearer token, or the password of the user; may be empty
   * @param largest how many bytes are read at most
   * @param longest how long all of it may take
   */
  public HttpPuller(Origin origin, Secret secret, long largest, Duration longest) {
    this.address = URI.create(origin.setting(Origin.ADDRESS));
    this.authorization = authorization(origin.setting(Origin.USER), secret.reveal());
    this.largest = largest;
    this.longest = longest;
  }

  private static String authorization(String user, String secret) {
    if (secret.isEmpty()) {
      return null;
    }
    return user.isEmpty()
        ? "Bearer " + secret
        : "Basic "
            + Base64.getEncoder()
                .encodeToString((user + ":" + secret).getBytes(StandardCharsets.UTF_8));
  }

  @Override
  public Optional<Fetched> fetch(Path into, String mark) throws Undelivered {
    try (var client = client()) {
      return new Pull(client, into, Marks.parse(mark)).all();
    } catch (IOException e) {
      throw Amiss.unreachable(address.toString(), e);
    }
  }

  private static CloseableHttpClient client() {
    return HttpClients.custom()
        .setConnectionManager(
            PoolingHttpClientConnectionManagerBuilder.create()
                .setDefaultConnectionConfig(
                    ConnectionConfig.custom()
                        .setConnectTimeout(Timeout.of(CONNECT))
                        .setSocketTimeout(Timeout.of(SILENCE))
                        .build())
                .build())
        .setDefaultRequestConfig(
            RequestConfig.custom().setResponseTimeout(Timeout.of(SILENCE)).build())
        .disableRedirectHandling()
        .disableCookieManagement()
        .disableAutomaticRetries()
        .build();
  }

  /** What the server said of the last delivery, as it said it. */
  private record Marks(String tag, String modified) {
    static Marks parse(String text) {
      if (text == null) {
        return new Marks("", "");
      }
      var parts = text.split("\n", -1);
      return new Marks(parts[0], parts.length > 1 ? parts[1] : "");
    }

    String text() {
      return tag + "\n" + modified;
    }
  }

  /** One delivery, page by page. */
  private final class Pull {
    private final CloseableHttpClient client;
    private final Path into;
    private final Marks before;
    private final Instant end = Instant.now().plus(longest);
    private long total;
    private String firstLine;

    Pull(CloseableHttpClient client, Path into, Marks before) {
      this.client = client;
      this.into = into;
      this.before = before;
    }

    /** A page that was got. */
    private record Got(URI at, Marks marks, URI next) {}

    Optional<Fetched> all() throws Undelivered {
      var first = follow(address, true);
      if (first.isEmpty()) {
        return Optional.empty();
      }
      var seen = new HashSet<URI>();
      for (var next = first.get().next(); next != null; ) {
        if (!seen.add(next) || seen.size() > MOST_PAGES) {
          throw Amiss.redirected(address.toString(), "Its pages lead back to each other.");
        }
        next = follow(next, false).orElseThrow().next();
      }
      var marks = first.get().marks();
      return Optional.of(new Fetched(name(), instant(marks.modified()), marks.text()));
    }

    /** Empty if it is as last time. */
    private Optional<Got> follow(URI from, boolean isFirst) throws Undelivered {
      var at = from;
      for (int i = 0; i <= MOST_REDIRECTS; i++) {
        var step = get(at, isFirst);
        if (step.redirect() == null) {
          return Optional.ofNullable(step.got());
        }
        at = step.redirect();
        if (!"https".equals(at.getScheme()) && "https".equals(address.getScheme())) {
          throw Amiss.redirected(address.toString(), "It leads to an address anybody can read.");
        }
      }
      throw Amiss.redirected(
          address.toString(), "It led on %d times; the last was %s.".formatted(MOST_REDIRECTS, at));
    }

    /** Where one request led: to a page, to another address, or to nothing new. */
    private record Led(Got got, URI redirect) {}

    private Led get(URI at, boolean isFirst) throws Undelivered {
      var request = new HttpGet(at);
      request.setHeader(
          HttpHeaders.ACCEPT, "text/csv, application/json, application/x-ndjson, */*");
      // Who leads us elsewhere does not get to see the secret there.
      if (authorization != null && isOurs(at)) {
        request.setHeader(HttpHeaders.AUTHORIZATION, authorization);
      }
      if (isFirst && !before.tag().isEmpty()) {
        request.setHeader(HttpHeaders.IF_NONE_MATCH, before.tag());
      }
      if (isFirst && !before.modified().isEmpty()) {
        request.setHeader(HttpHeaders.IF_MODIFIED_SINCE, before.modified());
      }
      try (var response =
          client.executeOpen(RoutingSupport.determineHost(request), request, null)) {
        return led(at, response, request);
      } catch (IOException | HttpException e) {
        throw Amiss.unreachable(at.toString(), e);
      }
    }

    private Led led(URI at, ClassicHttpResponse response, HttpGet request) throws Undelivered {
      var status = response.getCode();
      if (status == HttpStatus.SC_NOT_MODIFIED) {
        return new Led(null, null);
      }
      var location = header(response, HttpHeaders.LOCATION);
      if (REDIRECTS.contains(status) && !location.isEmpty()) {
        return new Led(null, resolve(at, location));
      }
      if (NOT_ALLOWED.contains(status)) {
        throw Amiss.notAllowed(at.toString(), status);
      }
      if (status != HttpStatus.SC_OK) {
        throw Amiss.refused(at.toString(), status);
      }
      if (header(response, HttpHeaders.CONTENT_TYPE).toLowerCase(ROOT).startsWith("text/html")) {
        throw Amiss.page(at.toString());
      }
      if (response.getEntity() != null) {
        keep(at, response.getEntity(), request);
      }
      var marks =
          new Marks(
              header(response, HttpHeaders.ETAG), header(response, HttpHeaders.LAST_MODIFIED));
      return new Led(new Got(at, marks, next(at, response)), null);
    }

    private void keep(URI at, HttpEntity entity, HttpGet request) throws Undelivered {
      try (var out = Files.newOutputStream(into, StandardOpenOption.APPEND)) {
        var body = entity.getContent();
        var head = body.readNBytes(HEAD);
        var line = firstLine(head);
        if (firstLine == null) {
          firstLine = line;
          mustBeAList(at, line);
          write(at, head, 0, head.length, out);
        } else {
          out.write('\n');
          var from = isHeading(line) ? Math.min(line.length() + 1, head.length) : 0;
          write(at, head, from, head.length - from, out);
        }
        var buffer = new byte[HEAD];
        for (int read = body.read(buffer); read >= 0; read = body.read(buffer)) {
          write(at, buffer, 0, read, out);
        }
      } catch (IOException e) {
        throw Amiss.brokeOff(at.toString(), e);
      } catch (Undelivered e) {
        // Closing the answer would read the rest of it first, which may have no end.
        request.abort();
        throw e;
      }
    }

    private static void mustBeAList(URI at, String line) throws Undelivered {
      var start = line.stripLeading().toLowerCase(ROOT);
      if (start.startsWith("<!doctype") || start.startsWith("<html")) {
        throw Amiss.page(at.toString());
      }
    }

    /** Pages of separated values each begin with the headings; those of JSON have none. */
    private boolean isHeading(String line) {
      return line.equals(firstLine) && !line.startsWith("{") && !line.startsWith("[");
    }

    /** In an encoding in which each byte is a character: only its length and start matter. */
    private static String firstLine(byte[] head) {
      var text = new String(head, StandardCharsets.ISO_8859_1);
      var end = text.indexOf('\n');
      return end < 0 ? text : text.substring(0, end);
    }

    private void write(URI at, byte[] bytes, int from, int length, OutputStream out)
        throws IOException, Undelivered {
      total += length;
      if (total > largest) {
        throw Amiss.tooLarge(at.toString(), largest);
      }
      if (Instant.now().isAfter(end)) {
        throw Amiss.tooSlow(at.toString(), longest.toMinutes());
      }
      out.write(bytes, from, length);
    }

    private URI next(URI at, ClassicHttpResponse response) throws Undelivered {
      for (var header : response.getHeaders("Link")) {
        var found = NEXT.matcher(header.getValue());
        if (found.find()) {
          return resolve(at, found.group(1));
        }
      }
      return null;
    }
  }

  private boolean isOurs(URI at) {
    return at.getHost().equalsIgnoreCase(address.getHost())
        && at.getPort() == address.getPort()
        && at.getScheme().equals(address.getScheme());
  }

  private URI resolve(URI at, String to) throws Undelivered {
    try {
      var next = at.resolve(to);
      if (next.getHost() != null && next.getScheme().startsWith("http")) {
        return next;
      }
    } catch (IllegalArgumentException _) {
      // Said below, as for an address that is none of the web.
    }
    throw Amiss.redirected(address.toString(), "It leads to %s.".formatted(to));
  }

  private String name() {
    var path = address.getPath() == null ? "" : address.getPath();
    var last = path.substring(path.lastIndexOf('/') + 1);
    return last.isEmpty() ? address.getHost() : last;
  }

  private static String header(ClassicHttpResponse response, String name) {
    var header = response.getFirstHeader(name);
    return header == null ? "" : header.getValue();
  }

  private static Instant instant(String modified) {
    try {
      return modified.isEmpty()
          ? null
          : DateTimeFormatter.RFC_1123_DATE_TIME.parse(modified, Instant::from);
    } catch (DateTimeException _) {
      // A date nobody can read says nothing of when it was written.
      return null;
    }
  }
}
