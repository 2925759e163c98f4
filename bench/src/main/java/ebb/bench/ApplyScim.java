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
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.hc.client5.http.classic.methods.HttpGet;
import org.apache.hc.client5.http.classic.methods.HttpPost;
import org.apache.hc.client5.http.impl.classic.CloseableHttpClient;
import org.apache.hc.client5.http.impl.classic.HttpClients;
import org.apache.hc.client5.http.impl.io.PoolingHttpClientConnectionManagerBuilder;
import org.apache.hc.core5.http.ContentType;
import org.apache.hc.core5.http.io.entity.EntityUtils;
import org.apache.hc.core5.http.io.entity.StringEntity;

/**
 * Carries out creates that are released and wait, against a bare client that sends the same
 * requests to the same stand-in: an account is made, and read back.
 */
final class ApplyScim {
  private static final int AT_ONCE = 32;
  private static final List<Duration> DELAYS = List.of(Duration.ofMillis(20), Duration.ZERO);
  private static final String HOUSE = "mail-house";
  private static final String TOKEN = "mail-house-token";

  private final Path folder;
  private final Path jar;
  private final Trial trial;

  ApplyScim(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  /** Where the stand-in takes twenty milliseconds for each answer, and where it takes none. */
  List<Measured> run() throws Exception {
    try (var stage =
            new Stage(
                folder.resolve("scim"), new ServiceProcess(jar, ServiceProcess.AS_SERVED), 0);
        var pool = Executors.newFixedThreadPool(AT_ONCE);
        var client = client()) {
      var ebb = new Client(stage.url(), stage.token());
      SetUp.run(ebb, stage);
      connect(ebb, stage);
      var house = stage.mailHouse();
      var took =
          trial.medians(
              "apply-scim",
              (number, accounts) -> {
                var times = new double[4];
                for (int i = 0; i < DELAYS.size(); i++) {
                  var round = DELAYS.size() * number + i;
                  Held.release(ebb, People.file(folder, round, accounts), HOUSE);
                  house.manners().delay(DELAYS.get(i));
                  times[2 * i] = goOn(ebb, house, accounts);
                  times[2 * i + 1] = bare(client, pool, house, round, accounts);
                  house.manners().delay(Duration.ZERO);
                }
                return times;
              });
      return List.of(
          new Measured("apply-scim", took[0], took[1], 1.25, "s", trial.n()),
          new Measured("apply-scim-0", took[2], took[3], 4, "s", trial.n()));
    }
  }

  private void connect(Client ebb, Stage stage) throws IOException {
    ebb.done(
        "applications",
        "connect",
        "mail-house",
        "--kind=scim",
        "--set=address=" + stage.mailHouse().scim(),
        "--set=network=internal",
        "--set=callsAtOnce=" + AT_ONCE,
        "--secret-file=" + Files.writeString(folder.resolve("token"), TOKEN));
    // Only one application, so that nothing else is at work meanwhile.
    ebb.done("applications", "pause", "directory", "--why=not measured");
    ebb.done("applications", "pause", "mail-house", "--why=until all is released");
  }

  private static double goOn(Client ebb, MailHouse house, int accounts) {
    var before = house.accounts().count();
    var begin = System.nanoTime();
    ebb.done("applications", "go-on", "mail-house");
    while (house.accounts().count() < before + accounts) {
      Held.sleep(20);
    }
    Held.awaitNone(ebb, HOUSE);
    return (System.nanoTime() - begin) / 1e9;
  }

  private static CloseableHttpClient client() {
    return HttpClients.custom()
        .setConnectionManager(
            PoolingHttpClientConnectionManagerBuilder.create()
                .setMaxConnPerRoute(AT_ONCE)
                .setMaxConnTotal(AT_ONCE)
                .build())
        .build();
  }

  /** What Ebb sent last, sent again under other names. */
  private static double bare(
      CloseableHttpClient client, ExecutorService pool, MailHouse house, int round, int accounts)
      throws Exception {
    var sent = house.journal().getLast().sent();
    var mail = sent.path("userName").asText();
    var bodies = new ArrayList<String>();
    for (int i = 0; i < accounts; i++) {
      bodies.add(
          sent.toString()
              .replace(mail, "bare%d-%d".formatted(round, i))
              .replaceAll("\"ebb-\\d+\"", "\"bare-%d-%d\"".formatted(round, i)));
    }
    var next = new AtomicInteger();
    Callable<Void> work =
        () -> {
          for (int i = next.getAndIncrement(); i < accounts; i = next.getAndIncrement()) {
            createAndRead(client, house.scim(), bodies.get(i));
          }
          return null;
        };
    var begin = System.nanoTime();
    for (Future<Void> one : pool.invokeAll(Collections.nCopies(AT_ONCE, work))) {
      one.get();
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static void createAndRead(CloseableHttpClient client, String scim, String body)
      throws IOException {
    var post = new HttpPost(scim + "/Users");
    post.addHeader("Authorization", "Bearer " + TOKEN);
    post.setEntity(
        new StringEntity(
            body, ContentType.create("application/scim+json", StandardCharsets.UTF_8)));
    var answer =
        client.execute(
            post,
            response -> {
              if (response.getCode() != 201) {
                throw new IOException("Answered " + response.getCode());
              }
              return EntityUtils.toString(response.getEntity());
            });
    var at = answer.indexOf("\"id\":\"") + 6;
    var get = new HttpGet(scim + "/Users/" + answer.substring(at, answer.indexOf('"', at)));
    get.addHeader("Authorization", "Bearer " + TOKEN);
    client.execute(get, response -> EntityUtils.toString(response.getEntity()));
  }
}
