package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.standins.Apache;
import ebb.standins.Dovecot;
import ebb.standins.Radicale;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Mail, files, calendars and the automatic reply of one leaver, each on a real server. */
public class HandoverOfAllTest extends HandingOver {
  private static final Pattern HREF = Pattern.compile("<(?:\\w+:)?href>([^<]*)</");

  private static final String WORK =
      """
      <mkcalendar xmlns="urn:ietf:params:xml:ns:caldav" xmlns:D="DAV:">
        <D:set><D:prop><D:displayname>Work</D:displayname></D:prop></D:set>
      </mkcalendar>
      """;

  private Apache apache;
  private Radicale radicale;

  @BeforeClass
  public void startServers() throws Exception {
    apache = Apache.start("");
    radicale = Radicale.start();
    var files = Files.writeString(stage.home().resolve("files.secret"), Apache.PASSWORD);
    var calendars = Files.writeString(stage.home().resolve("calendars.secret"), Radicale.PASSWORD);
    connect(
        Dovecot.PASSWORD,
        "--set=files=" + apache.address() + "{login}/",
        "--set=filesUser=" + Apache.USER,
        "--secret=files=" + files,
        "--set=calendars=" + radicale.address() + "{login}/",
        "--set=calendarsUser=" + Radicale.USER,
        "--secret=calendars=" + calendars);
  }

  @AfterClass(alwaysRun = true)
  public void stopServers() throws Exception {
    radicale.close();
    apache.close();
  }

  @Test
  public void allThatOneLeaverOwnsIsHandedOverAndTheSheetIsAsTheServersAre() throws Exception {
    var text =
        Files.writeString(stage.home().resolve("reply.txt"), "{name} has left\n\nAsk {recipient}.");
    client.done("departures", "procedures", "employee", "--reply=" + text, "--reply-days=60");
    homes();
    deliver(leaver, "INBOX", 1, 3);
    for (int i = 0; i < 5; i++) {
      file(i, "note " + i);
    }
    meeting("past", "DTSTART:" + day(-30));
    meeting("coming", "DTSTART:" + day(9) + "\nORGANIZER:mailto:" + leaver + "@skerrow.example");
    meeting("weekly", "DTSTART:" + day(-30) + "\nRRULE:FREQ=WEEKLY");
    meeting("odd", "DTSTART:" + day(9) + "\nSEQUENCE:one");
    leave();
    client.settle();
    client.done("clock", "--days=4");
    client.settle();
    client.done("departures", "procedures", "employee", "--drop");

    assertThat(shut()).containsExactly("waiting");
    assertThat(client.done("departures", "show", number()))
        .containsPattern("owned +mail: 3, .*; 3 arrived")
        .containsPattern("owned +files: 5, .*; 5 arrived")
        .containsPattern("owned +calendar: 4, .*; 4 arrived");
    assertThat(client.done("departures", "items", number(), part(), "--limit=100"))
        .contains("as it was: it cannot be read")
        .containsPattern("From Ida Leaver%s, Work, past; From".formatted(mark));
    assertThat(dovecot.activeScript(leaver)).contains("Ask Ada Head" + mark);
    assertThat(contents(head, inbox())).isEqualTo(contents(leaver, "INBOX"));
    assertThat(filesThere()).hasSize(5);
    assertThat(meetings("")).containsExactlyInAnyOrder("coming.ics", "odd.ics", "weekly.ics");
    assertThat(meetings(", past")).containsExactlyInAnyOrder("past.ics", "weekly.ics");
    assertThat(send(radicale, "GET", calendar(head, "") + "coming.ics", ""))
        .contains("ORGANIZER:mailto:" + head + "@skerrow.example");
  }

  /** Servers come and go, Ebb is killed, more comes in: in the end each is there, and once. */
  @Test
  public void nothingIsLostAndNothingComesTwiceWhateverFails() throws Exception {
    var random = Chance.random(23);
    homes();
    var mails = 0;
    var files = 0;
    var meetings = 0;
    for (int round = 0; round < 10; round++) {
      var mail = 5 + random.nextInt(20);
      deliver(leaver, "INBOX", mails, mail);
      mails += mail;
      for (int i = 0; i < 4; i++) {
        file(files, "note " + files++);
        meeting("m" + meetings++, "DTSTART:" + day(random.nextBoolean() ? 9 : -30));
      }
      if (round == 0) {
        leave();
        client.settle();
        client.done("clock", "--days=4");
      }
      Thread.sleep(random.nextInt(600));
      fail(round % 4, random);
      client.run("departures", "retry", number());
    }
    client.done("clock", "--days=40");
    waitUntil(
        "the account is gone",
        () -> {
          client.run("departures", "retry", number());
          return stage.mailHouse().accounts().byName(leaver) == null;
        });

    assertThat(contents(head, inbox())).doesNotHaveDuplicates().hasSize(mails);
    assertThat(filesThere()).hasSize(files);
    var there = new ArrayList<>(meetings(""));
    there.addAll(meetings(", past"));
    assertThat(there).doesNotHaveDuplicates().hasSize(meetings);
    assertThat(arrived()).isEqualTo(mails + files + meetings);
  }

  /** By the sheet. */
  private long arrived() {
    return house().path("sheet").valueStream().mapToLong(one -> one.path("arrived").asLong()).sum();
  }

  private void fail(int what, Random random) throws Exception {
    switch (what) {
      case 0 -> {
        stage.killService();
        stage.startService();
      }
      case 1 -> {
        dovecot.stop();
        Thread.sleep(random.nextInt(500));
        dovecot.resume();
      }
      case 2 -> {
        apache.stop();
        Thread.sleep(random.nextInt(500));
        apache.resume();
      }
      default -> {
        radicale.stop();
        Thread.sleep(random.nextInt(500));
        radicale.resume();
      }
    }
  }

  private String inbox() {
    return "From Ida Leaver%s.INBOX".formatted(mark);
  }

  private void homes() throws Exception {
    for (var login : List.of(leaver, head)) {
      send(apache, "MKCOL", login + "/", "");
      send(radicale, "MKCOL", login + "/", "");
    }
    send(radicale, "MKCALENDAR", leaver + "/Work/", WORK);
  }

  private void file(int number, String text) throws Exception {
    send(apache, "PUT", "%s/note%d.txt".formatted(leaver, number), text);
  }

  private List<String> filesThere() throws Exception {
    return inside(send(apache, "PROPFIND", "%s/From%%20Ida%%20Leaver%s/".formatted(head, mark), ""))
        .toList();
  }

  private void meeting(String name, String lines) throws Exception {
    var text =
        """
        BEGIN:VCALENDAR
        VERSION:2.0
        PRODID:-//Skerrow//Quay//EN
        BEGIN:VEVENT
        UID:%s
        DTSTAMP:20260101T000000Z
        %s
        END:VEVENT
        END:VCALENDAR
        """
            .formatted(name, lines)
            .replace("\n", "\r\n");
    send(radicale, "PUT", "%s/Work/%s.ics".formatted(leaver, name), text);
  }

  private String calendar(String login, String ending) {
    var name = "From Ida Leaver%s, Work%s/".formatted(mark, ending);
    return login + "/" + name.replace(" ", "%20");
  }

  private List<String> meetings(String ending) throws Exception {
    return inside(send(radicale, "PROPFIND", calendar(head, ending), ""))
        .map(href -> href.replaceAll(".*/", ""))
        .toList();
  }

  private static Stream<String> inside(String listed) {
    return HREF.matcher(listed)
        .results()
        .map(one -> one.group(1))
        .filter(href -> !href.endsWith("/"));
  }

  private String day(int ahead) {
    var today = client.today();
    return today.plusDays(ahead).format(DateTimeFormatter.BASIC_ISO_DATE) + "T090000Z";
  }

  private String send(Apache to, String method, String path, String text) throws Exception {
    return send(to.address(), Apache.USER + ":" + Apache.PASSWORD, method, path, text);
  }

  private String send(Radicale to, String method, String path, String text) throws Exception {
    return send(to.address(), Radicale.USER + ":" + Radicale.PASSWORD, method, path, text);
  }

  /**
   * A client for each request: Radicale answers as HTTP/1.0 does and ends the connection without a
   * word of it, and one that is used again may be taken before its end is noticed.
   */
  private String send(String address, String proof, String method, String path, String text)
      throws Exception {
    var request =
        HttpRequest.newBuilder(URI.create(address + path))
            .method(method, BodyPublishers.ofString(text))
            .header("Depth", "1")
            .header("Content-Type", method.equals("PUT") ? "text/calendar" : "application/xml")
            .header(
                "Authorization",
                "Basic "
                    + Base64.getEncoder().encodeToString(proof.getBytes(StandardCharsets.US_ASCII)))
            .build();
    HttpResponse<String> answer;
    try (var http = HttpClient.newHttpClient()) {
      answer = http.send(request, BodyHandlers.ofString());
    }
    assertThat(answer.statusCode()).as(method + " " + path + answer.body()).isBetween(200, 299);
    return answer.body();
  }
}
