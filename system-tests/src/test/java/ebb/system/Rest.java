package ebb.system;

import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The REST interface, request by request. */
final class Rest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static final int FEWEST_ENDPOINTS = 150;

  private final HttpClient client = HttpClient.newHttpClient();
  private final String url;
  private final String token;

  Rest(String url, String token) {
    this.url = url;
    this.token = token;
  }

  record Answer(int status, JsonNode body, HttpResponse<String> response) {
    String code() {
      return body.path("code").asString("");
    }

    String header(String name) {
      return response.headers().firstValue(name).orElse("");
    }
  }

  Rest as(String token) {
    return new Rest(url, token);
  }

  /** Method and path of every endpoint of the service's own description. */
  static List<Object[]> endpoints(JsonNode description) {
    var all = new ArrayList<Object[]>();
    description
        .path("paths")
        .properties()
        .forEach(
            path ->
                path.getValue()
                    .propertyNames()
                    .forEach(method -> all.add(new Object[] {method, path.getKey()})));
    if (all.size() < FEWEST_ENDPOINTS) {
      throw new AssertionError("The description names %d endpoints only".formatted(all.size()));
    }
    return all;
  }

  Answer get(String path) throws IOException, InterruptedException {
    return send("GET", path, null, null);
  }

  Answer send(String method, String path, String type, String body, String... headers)
      throws IOException, InterruptedException {
    var request =
        HttpRequest.newBuilder(URI.create(url + path))
            .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body));
    if (token != null) {
      request.header("Authorization", "Bearer " + token);
    }
    if (type != null) {
      request.header("Content-Type", type);
    }
    if (headers.length > 0) {
      request.headers(headers);
    }
    var response = client.send(request.build(), BodyHandlers.ofString());
    var isJson = response.headers().firstValue("Content-Type").orElse("").contains("json");
    return new Answer(
        response.statusCode(), isJson ? JSON.readTree(response.body()) : JSON.nullNode(), response);
  }

  /** Of an answer that does not end by itself. */
  int statusOfStream(String path) throws IOException, InterruptedException {
    var request = HttpRequest.newBuilder(URI.create(url + path));
    if (token != null) {
      request.header("Authorization", "Bearer " + token);
    }
    var response = client.send(request.build(), BodyHandlers.ofInputStream());
    response.body().close();
    return response.statusCode();
  }

  Answer json(String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    return send(method, path, "application/json", body, headers);
  }

  Answer upload(String file, String content, String... headers)
      throws IOException, InterruptedException {
    return bring("source=hr&complete=true&file=" + file, content, headers);
  }

  /** Brings in a file of so many bytes, which are made as they are sent. */
  Answer bringLarge(String query, long size) throws IOException, InterruptedException {
    var request =
        HttpRequest.newBuilder(URI.create(url + "/api/v1/imports?" + query))
            .header("Authorization", "Bearer " + token)
            .header("Content-Type", "text/csv")
            .POST(
                BodyPublishers.fromPublisher(
                    BodyPublishers.ofInputStream(() -> new Zeros(size)), size))
            .build();
    var response = client.send(request, BodyHandlers.ofString());
    return new Answer(response.statusCode(), JSON.readTree(response.body()), response);
  }

  private static final class Zeros extends InputStream {
    private long left;

    Zeros(long size) {
      this.left = size;
    }

    @Override
    public int read() {
      return left-- > 0 ? '0' : -1;
    }

    @Override
    public int read(byte[] into, int from, int most) {
      int length = (int) Math.min(left, most);
      if (length <= 0) {
        return -1;
      }
      Arrays.fill(into, from, from + length, (byte) '0');
      left -= length;
      return length;
    }
  }

  /** Brings a file in, and waits until it is shown or asks something. */
  Answer bring(String query, String content, String... headers)
      throws IOException, InterruptedException {
    var all = new ArrayList<>(List.of(headers));
    all.addAll(List.of("Prefer", "wait=60"));
    return send(
        "POST", "/api/v1/imports?" + query, "text/csv", content, all.toArray(String[]::new));
  }
}
