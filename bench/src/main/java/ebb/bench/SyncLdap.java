package ebb.bench;

import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.demo.Client;
import ebb.demo.ServiceProcess;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads a directory of many entries for the first time, again, and after a hundred changes, against
 * a paged ldapsearch of the same attributes into a file. A few hundred entries are people's, and
 * those change: each is compared with what it should be.
 */
final class SyncLdap {
  private static final int CHANGES = 100;

  /** Of a whole sync that is a tenth as long, what has changed is ten times as much. */
  private static final double CHANGED = 0.05;

  private static final double AMONG = 100_000;

  private static final String SYNC = "moduleload syncprov";
  private static final String WITH_LOG =
      Slapd.NO_LIMITS + "\noverlay syncprov\nsyncprov-sessionlog 10000";

  private static final String RULE =
      """
      {"application": "%s", "condition": "true", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "name.formatted": "person.displayName"}}
      """;

  private static final String[] ATTRIBUTES = {
    "uid", "givenName", "sn", "cn", "displayName", "title", "ou", "employeeNumber",
    "employeeType", "mail", "mobile", "description", "l", "manager", "entryUUID", "originKey",
    "loginAllowed", "modifyTimestamp", "modifiersName"
  };

  private final Path folder;
  private final Path jar;
  private final Trial trial;

  SyncLdap(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  List<Measured> run() throws Exception {
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var stage =
            new Stage(
                folder.resolve("sync"), new ServiceProcess(jar, ServiceProcess.AS_SERVED), 0)) {
      slapd.load(entries(trial.n()));
      var ebb = new Client(stage.url(), stage.token());
      SetUp.run(ebb, stage);
      ebb.done("applications", "pause", "directory", "--why=not measured");
      ebb.done("applications", "pause", "mail-house", "--why=not measured");
      bringPeople(ebb, slapd);
      sync(ebb, "people", true);
      awaitPlaced(ebb, "people");
      var took =
          trial.medians(
              "sync-ldap",
              (number, entries) -> {
                var name = "again-" + number;
                connect(ebb, slapd, name);
                var first = sync(ebb, name, false);
                awaitPlaced(ebb, name);
                var full = sync(ebb, "people", true);
                change(slapd, number);
                var changed = sync(ebb, "people", false);
                return new double[] {first, full, changed, search(slapd, entries)};
              });
      return List.of(
          new Measured("sync-ldap-first", took[0], took[3], 5, "s", trial.n()),
          new Measured("sync-ldap", took[1], took[3], 2, "s", trial.n()),
          new Measured(
              "sync-ldap-changed", took[2], took[1], CHANGED * AMONG / trial.n(), "s", CHANGES));
    }
  }

  /** Until it was looked whose the accounts of nobody may be: that goes on while people work. */
  private static void awaitPlaced(Client ebb, String name) {
    while (ebb.json("findings", "list", name)
        .path("kinds")
        .valueStream()
        .anyMatch(one -> one.path("kind").asString().equals("unlooked"))) {
      Held.sleep(500);
    }
  }

  private Path entries(int count) throws IOException {
    var file = folder.resolve("entries.ldif");
    try (var out = Files.newBufferedWriter(file)) {
      for (int i = 0; i < count; i++) {
        out.write(
            """
            dn: uid=found%1$d,%2$s
            objectClass: inetOrgPerson
            objectClass: skerrowPerson
            uid: found%1$d
            givenName: Given%1$d
            sn: Family%1$d
            cn: Given%1$d Family%1$d
            displayName: Given%1$d Family%1$d
            title: Mate
            ou: Deck
            employeeNumber: F-%1$d
            employeeType: employee
            mail: found%1$d@skerrow.example
            mobile: +99 555 %1$d
            l: Skerrow
            loginAllowed: TRUE
            manager: uid=found%3$d,%2$s

            """
                .formatted(i, StaffDirectory.PEOPLE, i / 10));
      }
    }
    return file;
  }

  /** Those whose entries change, made by Ebb itself. */
  private void bringPeople(Client ebb, Slapd slapd) throws Exception {
    connect(ebb, slapd, "people");
    ebb.done(
        "rules",
        "put",
        "people-for-all",
        Files.writeString(folder.resolve("rule.json"), RULE.formatted("people")).toString(),
        "--release");
    var made =
        ebb.json("imports", "add", People.file(folder, 0, 2 * CHANGES).toString(), "--source=hr");
    ebb.done("applications", "go-on", "people");
    ebb.done(
        "changes",
        "release",
        made.path("changeSet").asString(),
        "--no-wait",
        "--reason=a benchmark");
    try (var root = slapd.root()) {
      while (root.search(StaffDirectory.PEOPLE, SearchScope.ONE, "(originKey=*)", "1.1")
              .getEntryCount()
          < 2 * CHANGES) {
        Thread.sleep(200);
      }
    }
    sync(ebb, "people", true);
  }

  private void connect(Client ebb, Slapd slapd, String name) throws IOException {
    ebb.done(
        "applications",
        "connect",
        name,
        "--kind=ldap",
        "--set=host=127.0.0.1",
        "--set=port=" + slapd.port(),
        "--set=bindDn=" + StaffDirectory.ADMIN,
        "--set=people=" + StaffDirectory.PEOPLE,
        "--set=groups=" + StaffDirectory.GROUPS,
        "--set=objectClasses=inetOrgPerson,skerrowPerson",
        "--set=switchAttribute=loginAllowed",
        "--set=originAttribute=originKey",
        "--secret-file=" + Files.writeString(folder.resolve("secret"), "secret"));
  }

  private static double sync(Client ebb, String name, boolean everything) {
    var begin = System.nanoTime();
    if (everything) {
      ebb.done("applications", "sync", name, "--everything");
    } else {
      ebb.done("applications", "sync", name);
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static void change(Slapd slapd, int round) throws Exception {
    try (var root = slapd.root()) {
      var entries = root.search(StaffDirectory.PEOPLE, SearchScope.ONE, "(originKey=*)", "1.1");
      for (var entry : entries.getSearchEntries().subList(0, CHANGES)) {
        root.modify(
            entry.getDN(), new Modification(ModificationType.REPLACE, "l", "Quay " + round));
      }
    }
  }

  private double search(Slapd slapd, int entries) throws Exception {
    var command =
        new ArrayList<>(
            List.of(
                "ldapsearch",
                "-LLL",
                "-x",
                "-H",
                "ldap://127.0.0.1:" + slapd.port(),
                "-D",
                StaffDirectory.ADMIN,
                "-w",
                "secret",
                "-b",
                StaffDirectory.PEOPLE,
                "-E",
                "pr=1000/noprompt",
                "(objectClass=inetOrgPerson)"));
    command.addAll(List.of(ATTRIBUTES));
    var into = folder.resolve("found.ldif");
    var begin = System.nanoTime();
    var searching =
        new ProcessBuilder(command)
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .redirectOutput(into.toFile())
            .start();
    if (searching.waitFor() != 0 || Files.size(into) < 100L * entries) {
      throw new IllegalStateException("ldapsearch failed");
    }
    return (System.nanoTime() - begin) / 1e9;
  }
}
