package ebb.system;

import ebb.demo.Client;
import ebb.demo.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;

/** Lists of people as operators bring them in, and what became of them. */
final class Lists {
  private final Stage stage;
  private final Client client;

  Lists(Stage stage, Client client) {
    this.stage = stage;
    this.client = client;
  }

  /**
   * Says what the columns of a source mean.
   *
   * @param columns as in Family=name.familyName
   */
  void source(String name, int rank, String key, String... columns) throws IOException {
    var meanings =
        Arrays.stream(columns)
            .map(column -> column.split("="))
            .map(column -> "\"%s\": \"%s\"".formatted(column[0], column[1]))
            .collect(Collectors.joining(", "));
    client.done(
        "sources",
        "put",
        name,
        file(
            name + ".json",
            "{\"rank\": %d, \"key\": \"%s\", \"columns\": {%s}}".formatted(rank, key, meanings)));
  }

  JsonNode bring(String source, String headings, List<String> rows, String... options)
      throws IOException {
    var text = headings + "\n" + String.join("\n", rows) + "\n";
    var command =
        Stream.concat(
            Stream.of("imports", "add", file(source + ".csv", text), "--source=" + source),
            Arrays.stream(options));
    return client.json(command.toArray(String[]::new));
  }

  /** A source of people with a number, a kind and a job. */
  void crew(String name, int rank) throws IOException {
    source(
        name,
        rank,
        "No",
        "Family=name.familyName",
        "Given=name.givenName",
        "Kind=userType",
        "Mobile=phoneNumbers.mobile",
        "Job=title");
  }

  /** Brings in rows of such a source. */
  JsonNode bringCrew(String source, String... rows) throws IOException {
    return bring(source, "No,Family,Given,Kind,Mobile,Job", List.of(rows));
  }

  /** Lets an import through, whatever the guard says, and waits until all is done. */
  void release(JsonNode made) throws InterruptedException {
    client.done("changes", "release", made.path("changeSet").asString(), "--reason=few people");
    client.settle();
  }

  /** The number of the first person of a family name. */
  String person(String family) {
    return client
        .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
        .at("/items/0/id")
        .asString();
  }

  String file(String name, String text) throws IOException {
    return Files.writeString(stage.home().resolve(name), text).toString();
  }

  static String id(JsonNode made) {
    return made.path("id").asString();
  }
}
