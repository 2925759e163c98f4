package ebb.bench;

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

/**
 * Carries out creates that are released and wait in a slapd, against ldapmodify adding as many
 * entries of the same attributes to the same server over as many connections.
 */
final class ApplyLdap {
  private static final String NAME = "harbour";
  private static final int CONNECTIONS = 2;

  private static final String RULE =
      """
      {"application": "harbour", "condition": "true", "leadDays": 14,
       "values": {"userName": "login", "name.givenName": "person.name.givenName",
         "name.familyName": "person.name.familyName", "name.formatted": "person.displayName",
         "title": "person.title", "emails.work": "login + '@skerrow.example'"}}
      """;

  private final Path folder;
  private final Path jar;
  private final Trial trial;

  ApplyLdap(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  Measured run() throws Exception {
    try (var slapd = Slapd.start("", Slapd.NO_LIMITS);
        var stage =
            new Stage(
                folder.resolve("apply"), new ServiceProcess(jar, ServiceProcess.AS_SERVED), 0)) {
      var ebb = new Client(stage.url(), stage.token());
      SetUp.run(ebb, stage);
      putNobody(ebb, "directory-for-all", "directory");
      putNobody(ebb, "mail-for-employees", "mail-house");
      connect(ebb, slapd);
      var took =
          trial.medians(
              "apply-ldap",
              (number, accounts) -> {
                Held.release(ebb, People.file(folder, number, accounts), NAME);
                return new double[] {goOn(ebb, slapd, accounts), add(slapd, number, accounts)};
              });
      return new Measured("apply-ldap", took[0], took[1], 1.3, "s", trial.n());
    }
  }

  /** Nothing else is to be done for anybody. */
  private void putNobody(Client ebb, String rule, String application) throws IOException {
    ebb.done(
        "rules",
        "put",
        rule,
        Files.writeString(
                folder.resolve("nobody.json"),
                "{\"application\": \"%s\", \"condition\": \"false\", \"leadDays\": 14, \"values\": {}}"
                    .formatted(application))
            .toString(),
        "--release");
  }

  private void connect(Client ebb, Slapd slapd) throws IOException {
    ebb.done(
        "applications",
        "connect",
        NAME,
        "--kind=ldap",
        "--set=host=127.0.0.1",
        "--set=port=" + slapd.port(),
        "--set=bindDn=" + StaffDirectory.ADMIN,
        "--set=people=" + StaffDirectory.PEOPLE,
        "--set=objectClasses=inetOrgPerson,skerrowPerson",
        "--set=switchAttribute=loginAllowed",
        "--set=originAttribute=originKey",
        "--set=callsAtOnce=" + CONNECTIONS,
        "--secret-file=" + Files.writeString(folder.resolve("secret"), "secret"));
    ebb.done(
        "rules",
        "put",
        "harbour-for-all",
        Files.writeString(folder.resolve("rule.json"), RULE).toString(),
        "--release");
  }

  private static double goOn(Client ebb, Slapd slapd, int accounts) throws Exception {
    var before = people(slapd);
    var begin = System.nanoTime();
    ebb.done("applications", "go-on", NAME);
    Held.awaitNone(ebb, NAME);
    var took = (System.nanoTime() - begin) / 1e9;
    var made = people(slapd) - before;
    if (made != accounts) {
      throw new IllegalStateException(
          "%,d of %,d accounts were made, %,d there before: %s"
              .formatted(made, accounts, before, ebb.done("changes", "list")));
    }
    return took;
  }

  private static int people(Slapd slapd) throws Exception {
    try (var root = slapd.root()) {
      return root.search(StaffDirectory.PEOPLE, SearchScope.ONE, "(uid=*)", "1.1").getEntryCount();
    }
  }

  private double add(Slapd slapd, int round, int accounts) throws Exception {
    var parts = new ArrayList<Path>();
    for (int part = 0; part < CONNECTIONS; part++) {
      parts.add(entries(round, part, accounts / CONNECTIONS));
    }
    var begin = System.nanoTime();
    var adding = new ArrayList<Process>();
    for (var part : parts) {
      adding.add(
          new ProcessBuilder(
                  "ldapmodify",
                  "-a",
                  "-x",
                  "-H",
                  "ldap://127.0.0.1:" + slapd.port(),
                  "-D",
                  StaffDirectory.ADMIN,
                  "-w",
                  "secret",
                  "-f",
                  part.toString())
              .redirectErrorStream(true)
              .redirectOutput(ProcessBuilder.Redirect.DISCARD)
              .start());
    }
    for (var one : adding) {
      if (one.waitFor() != 0) {
        throw new IllegalStateException("ldapmodify failed");
      }
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private Path entries(int round, int part, int count) throws IOException {
    var file = folder.resolve("add-%d-%d.ldif".formatted(round, part));
    try (var out = Files.newBufferedWriter(file)) {
      for (int i = 0; i < count; i++) {
        var name = "bare%d-%d-%d".formatted(round, part, i);
        out.write(
            """
            dn: uid=%1$s,%2$s
            objectClass: inetOrgPerson
            objectClass: skerrowPerson
            uid: %1$s
            givenName: Given
            sn: Family
            cn: Given Family
            title: Mate
            mail: %1$s@skerrow.example
            loginAllowed: TRUE
            originKey: bare-%1$s

            """
                .formatted(name, StaffDirectory.PEOPLE));
      }
    }
    return file;
  }
}
