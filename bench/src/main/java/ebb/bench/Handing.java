package ebb.bench;

import ebb.connectors.dav.DavServer;
import ebb.connectors.mail.Mail;
import ebb.core.application.Carrier;
import ebb.core.application.Carrier.Arrived;
import ebb.core.application.Carrier.Route;
import ebb.core.application.Ownership.Item;
import ebb.core.application.Secret;
import ebb.core.application.Secrets;
import ebb.standins.Apache;
import ebb.standins.Dovecot;
import jakarta.mail.Folder;
import jakarta.mail.Message;
import jakarta.mail.Session;
import jakarta.mail.Store;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Properties;

/**
 * Takes stock of what an account owns and carries all of it to another, each item read back and
 * compared; against the bare library copying the same on the same server, and looking at nothing.
 */
final class Handing {
  private static final ZonedDateTime DAY = ZonedDateTime.parse("2026-12-01T00:00Z");
  private static final int MESSAGE = 100_000;
  private static final int FILE = 20_000;
  private static final int TOGETHER = 100;

  private final Trial trial;

  Handing(Trial trial) {
    this.trial = trial;
  }

  Measured mail() throws Exception {
    try (var dovecot = Dovecot.start("")) {
      dovecot.fill("leaver", trial.n(), MESSAGE);
      var carrier =
          new Mail(
                  "house",
                  Map.of(
                      "mail",
                      dovecot.imap(),
                      "mailUser",
                      Dovecot.MASTER,
                      "mailSecurity",
                      "none",
                      "network",
                      "internal"),
                  new Secrets(Map.of("mail", new Secret(Dovecot.PASSWORD))),
                  login -> login)
              .carrier()
              .orElseThrow();
      var took =
          trial.medians(
              "handover-mail",
              (number, messages) -> {
                var one = carry(carrier, "heir" + number, messages);
                dovecot.empty("heir" + number);
                var begin = System.nanoTime();
                copy(dovecot, "bare" + number);
                var other = (System.nanoTime() - begin) / 1e9;
                dovecot.empty("bare" + number);
                return new double[] {one, other};
              });
      return new Measured("handover-mail", took[0], took[1], 1.3, "s", trial.n());
    }
  }

  private static double carry(Carrier carrier, String to, int count) throws Exception {
    var begin = System.nanoTime();
    var items = new ArrayList<Item>();
    carrier.items("leaver", items::add);
    var arrived = new int[1];
    carrier.carry(
        new Route("leaver", to, "From Leaver", DAY),
        items,
        one -> {
          arrived[0] += one instanceof Arrived ? 1 : 0;
          return true;
        });
    if (arrived[0] != count) {
      throw new IllegalStateException("Not all arrived: " + arrived[0]);
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static void copy(Dovecot dovecot, String to) throws Exception {
    try (var source = store(dovecot, "leaver");
        var target = store(dovecot, to)) {
      var from = source.getFolder("INBOX");
      from.open(Folder.READ_ONLY);
      var into = target.getFolder("From Leaver");
      into.create(Folder.HOLDS_MESSAGES);
      for (int first = 1; first <= from.getMessageCount(); first += TOGETHER) {
        Message[] some =
            from.getMessages(first, Math.min(from.getMessageCount(), first + TOGETHER - 1));
        into.appendMessages(some);
      }
      from.close();
    }
  }

  private static Store store(Dovecot dovecot, String login) throws Exception {
    var address = URI.create(dovecot.imap());
    var properties = new Properties();
    properties.put("mail.imap.fetchsize", "1000000");
    properties.put("mail.imap.peek", "true");
    var store = Session.getInstance(properties).getStore("imap");
    store.connect(address.getHost(), address.getPort(), login, Dovecot.PASSWORD);
    return store;
  }

  Measured files() throws Exception {
    try (var apache = Apache.start("");
        var server =
            DavServer.files(
                    "house",
                    Map.of(
                        "files",
                        apache.address() + "{login}/",
                        "filesUser",
                        Apache.USER,
                        "network",
                        "internal"),
                    new Secrets(Map.of("files", new Secret(Apache.PASSWORD))),
                    login -> login)
                .orElseThrow();
        var http = HttpClient.newHttpClient()) {
      apache.fill("leaver", trial.n(), FILE);
      var took =
          trial.medians(
              "handover-files",
              (number, files) -> {
                apache.fill("heir" + number, 0, 0);
                apache.fill("bare" + number, 0, 0);
                var one = carry(server.carrier(), "heir" + number, files);
                var begin = System.nanoTime();
                copy(http, apache, "bare" + number, files);
                return new double[] {one, (System.nanoTime() - begin) / 1e9};
              });
      return new Measured("handover-files", took[0], took[1], 1.3, "s", trial.n());
    }
  }

  /** The same requests: each folder listed and made, each file copied and read on both sides. */
  private static void copy(HttpClient http, Apache apache, String to, int files) throws Exception {
    var from = apache.address() + "leaver/";
    var into = apache.address() + to + "/From%20Leaver/";
    send(http, "PROPFIND", from, List.of("Depth", "1"));
    send(http, "MKCOL", into, List.of());
    for (int i = 0; i < files; i++) {
      var folder = "folder%20" + i / 100 + "/";
      if (i % 100 == 0) {
        send(http, "PROPFIND", from + folder, List.of("Depth", "1"));
        send(http, "MKCOL", into + folder, List.of());
      }
      var name = folder + "file%20" + i + ".txt";
      send(http, "GET", from + name, List.of());
      send(http, "COPY", from + name, List.of("Destination", into + name, "Overwrite", "F"));
      send(http, "GET", into + name, List.of());
    }
  }

  private static void send(HttpClient http, String method, String address, List<String> headers)
      throws Exception {
    var proof =
        Base64.getEncoder()
            .encodeToString(
                (Apache.USER + ":" + Apache.PASSWORD).getBytes(StandardCharsets.US_ASCII));
    var request =
        HttpRequest.newBuilder(URI.create(address))
            .method(method, BodyPublishers.noBody())
            .header("Authorization", "Basic " + proof);
    if (!headers.isEmpty()) {
      request.headers(headers.toArray(String[]::new));
    }
    var answer = http.send(request.build(), BodyHandlers.ofByteArray());
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(method + " " + address + ": " + answer.statusCode());
    }
  }
}
