package ebb.bench;

import ebb.demo.Client;
import ebb.demo.ServiceProcess;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.MailHouse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import org.apache.hc.client5.http.classic.methods.HttpPatch;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.io.entity.EntityUtils;
import org.apache.hc.core5.http.io.entity.StringEntity;

/**
 * People who all leave on one day are switched off in five applications, from the release until the
 * last of them is off everywhere, against the bare calls at the rates those applications allow.
 */
final class DeparturesDay {
  private static final int HOUSES = 5;
  private static final int CALLS_PER_SECOND = 50;
  private static final int AT_ONCE = 8;
  private static final String TOKEN = "house-token";
  private static final String OFF =
      """
      {"schemas": ["urn:ietf:params:scim:api:messages:2.0:PatchOp"],
       "Operations": [{"op": "replace", "path": "active", "value": false}]}""";

  private final Path folder;
  private final Path jar;
  private final Trial trial;
  private final List<MailHouse> houses = new ArrayList<>();

  DeparturesDay(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  Measured run() throws Exception {
    try (var stage =
            new Stage(
                folder.resolve("departures"),
                new ServiceProcess(jar, ServiceProcess.AS_SERVED),
                0);
        var client = client()) {
      var ebb = new Client(stage.url(), stage.token());
      SetUp.run(ebb, stage);
      // Five alike, and nothing else at work meanwhile.
      for (var rule : List.of("directory-for-all", "mail-for-employees")) {
        ebb.done("rules", "remove", rule, "--release");
      }
      for (int i = 1; i <= HOUSES; i++) {
        connect(ebb, i);
      }
      var took =
          trial.medians(
              "departures-day",
              (number, people) -> {
                bringIn(ebb, number, people);
                var left = houses.stream().map(house -> house.accounts().idsInUse()).toList();
                return new double[] {switchedOff(ebb, number), bare(client, left)};
              });
      return new Measured("departures-day", took[0], took[1], 1.25, "s", trial.n());
    } finally {
      for (var house : houses) {
        house.close();
      }
    }
  }

  private void connect(Client ebb, int number) throws IOException {
    var house = new MailHouse(0, TOKEN);
    houses.add(house);
    var name = "house-" + number;
    ebb.done(
        "applications",
        "connect",
        name,
        "--kind=scim",
        "--set=address=" + house.scim(),
        "--set=network=internal",
        "--set=callsAtOnce=" + AT_ONCE,
        "--set=callsPerSecond=" + CALLS_PER_SECOND,
        "--secret-file=" + Files.writeString(folder.resolve("token"), TOKEN));
    var rule =
        Files.writeString(
            folder.resolve(name + ".json"),
            """
            {"application": "%s", "condition": "true", "values": {"userName": "login",
             "displayName": "person.displayName", "title": "person.title"}}
            """
                .formatted(name));
    ebb.done("rules", "put", name, rule.toString(), "--release");
  }

  private void bringIn(Client ebb, int round, int people) throws IOException {
    var file = People.file(folder, round, people);
    var set =
        ebb.json("imports", "add", file.toString(), "--source=hr").path("changeSet").asString();
    ebb.done("changes", "release", set, "--no-wait", "--reason=a benchmark");
    for (var house : houses) {
      while (house.accounts().idsInUse().size() < people) {
        Held.sleep(200);
      }
      Held.awaitNone(ebb, "house-" + (houses.indexOf(house) + 1));
    }
  }

  /** All of a round leave on one day. */
  private double switchedOff(Client ebb, int round) throws IOException {
    var file = folder.resolve("people-%d.csv".formatted(round));
    var gone =
        Files.writeString(
            file, Files.readString(file).replace(",01.03.2026,,", ",01.03.2026,01.04.2026,"));
    var set =
        ebb.json("imports", "add", gone.toString(), "--source=hr", "--mode=update-only")
            .path("changeSet")
            .asString();
    var begin = System.nanoTime();
    ebb.done("changes", "release", set, "--no-wait", "--reason=a benchmark");
    for (int i = 1; i <= HOUSES; i++) {
      while (!houses.get(i - 1).accounts().idsInUse().isEmpty()) {
        Held.sleep(20);
      }
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static CloseableHttpClient client() {
    return HttpClients.custom()
        .setConnectionManager(
            PoolingHttpClientConnectionManagerBuilder.create()
                .setMaxConnPerRoute(AT_ONCE)
                .setMaxConnTotal(AT_ONCE * HOUSES)
                .build())
        .build();
  }

  /** The same calls once more, on accounts that are off already; the answer shows what is so. */
  private double bare(CloseableHttpClient client, List<List<String>> left) throws Exception {
    var begin = System.nanoTime();
    try (var pool = Executors.newFixedThreadPool(AT_ONCE * HOUSES)) {
      var work = new ArrayList<Callable<Void>>();
      for (var house : houses) {
        var ids = left.get(houses.indexOf(house));
        var next = new AtomicInteger();
        for (int i = 0; i < AT_ONCE; i++) {
          work.add(() -> switchOff(client, house, ids, next, begin));
        }
      }
      for (Future<Void> one : pool.invokeAll(work)) {
        one.get();
      }
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static Void switchOff(
      CloseableHttpClient client, MailHouse house, List<String> ids, AtomicInteger next, long begin)
      throws IOException {
    for (int i = next.getAndIncrement(); i < ids.size(); i = next.getAndIncrement()) {
      var user = house.scim() + "/Users/" + ids.get(i);
      awaitTurn(begin, i);
      var patch = new HttpPatch(user);
      patch.addHeader("Authorization", "Bearer " + TOKEN);
      patch.setEntity(
          new StringEntity(
              OFF, ContentType.create("application/scim+json", StandardCharsets.UTF_8)));
      client.execute(patch, answer -> EntityUtils.toString(answer.getEntity()));
    }
    return null;
  }

  private static void awaitTurn(long begin, int call) {
    var due = begin + call * 1_000_000_000L / CALLS_PER_SECOND;
    for (long left = due - System.nanoTime(); left > 0; left = due - System.nanoTime()) {
      LockSupport.parkNanos(left);
    }
  }
}
