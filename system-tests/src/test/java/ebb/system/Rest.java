package ebb.system;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The REST interface, request by request. */
final class Rest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

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

  Answer json(String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    return send(method, path, "application/json", body, headers);
  }

  Answer upload(String file, String content, String... headers)
      throws IOException, InterruptedException {
    return send(
        "POST",
        "/api/v1/imports?source=hr&complete=true&file=" + file,
        "text/csv",
        content,
        headers);
  }
}
