package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import com.unboundid.ldap.sdk.SearchScope;
import ebb.core.application.Connector;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.Test;

/** What a directory does to one on a bad day; each is its own problem with a remedy. */
public class LdapFaultsTest {
  private static final String MAIL_ONCE = "overlay unique\nunique_uri ldap:///?mail?sub";

  @Test
  public void anOverlayThatRefusesStopsOnlyThatChange() throws Exception {
    try (var slapd = Slapd.start("moduleload unique", MAIL_ONCE);
        var connector = open(slapd, Map.of())) {
      make(connector, "one", Map.of("emails.work", "same@skerrow.example"));

      var refused = create(connector, "two", Map.of("emails.work", "same@skerrow.example"));

      assertThat(problem(refused, Outcome.Refused.class).code())
          .isEqualTo("ldap-constraint-violation");
      assertThat(create(connector, "three", Map.of())).isInstanceOf(Outcome.Applied.class);
    }
  }

  @Test
  public void aServerThatOnlyPassesOnSaysWhereWritesGo() throws Exception {
    var shadow =
        "syncrepl rid=001 provider=ldap://127.0.0.1:9 type=refreshOnly interval=01:00:00:00"
            + " searchbase=\"dc=skerrow,dc=example\" bindmethod=simple\n"
            + "updateref ldap://writes.skerrow.example";
    try (var slapd = Slapd.start("", "");
        var _ = open(slapd, Map.of())) {
      slapd.configure("", shadow);

      try (var connector = open(slapd, Map.of())) {
        var later = problem(create(connector, "one", Map.of()), Outcome.RetryLater.class);
        assertThat(later.code()).isEqualTo("ldap-referral");
        assertThat(later.why()).contains("writes.skerrow.example");
      }
    }
  }

  @Test
  public void whereOneServerIsDownTheNextIsAsked() throws Exception {
    try (var slapd = Slapd.start("", "");
        var nobody = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      var gone = nobody.getLocalPort();
      nobody.close();
      var hosts = "127.0.0.1:%d,127.0.0.1:%d".formatted(gone, slapd.port());

      try (var connector = open(slapd, Map.of("host", hosts))) {
        assertThat(create(connector, "one", Map.of())).isInstanceOf(Outcome.Applied.class);
      }
    }
  }

  @Test
  public void aServerThatHangsIsGivenUpAndWhatWasSentIsNotKnown() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of("patience", "1"))) {
      make(connector, "one", Map.of());
      slapd.hang();

      var unknown = create(connector, "two", Map.of());

      assertThat(problem(unknown, Outcome.Unknown.class).code()).isEqualTo("ldap-timeout");
      assertThat(unreachable(connector).remedy()).isNotBlank();
      slapd.wake();
      assertThat(create(connector, "three", Map.of())).isInstanceOf(Outcome.Applied.class);
    }
  }

  @Test
  public void aServerThatWasStartedAnewIsReadAgain() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of())) {
      var made = make(connector, "one", Map.of());
      slapd.stop();
      assertThat(unreachable(connector).code()).isEqualTo("application-down");

      slapd.resume();

      assertThat(connector.find(made.id())).contains(made);
    }
  }

  @Test
  public void aConnectionEndedForIdlenessIsNoticedByNobody() throws Exception {
    try (var slapd = Slapd.start("idletimeout 3", "");
        var connector = open(slapd, Map.of())) {
      var made = make(connector, "one", Map.of());
      Thread.sleep(6_000);
      assertThat(connector.find(made.id())).contains(made);
      Thread.sleep(6_000);

      assertThat(create(connector, "two", Map.of())).isInstanceOf(Outcome.Applied.class);
    }
  }

  @Test
  public void aSizeLimitIsSaidWithWhatToDo() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of());
        var reader = open(slapd, Map.of("bindDn", Slapd.READER))) {
      try (var root = slapd.root()) {
        for (int i = 0; i < 510; i++) {
          root.add(
              "dn: uid=p%d,%s".formatted(i, StaffDirectory.PEOPLE),
              "objectClass: inetOrgPerson",
              "uid: p" + i,
              "sn: P",
              "cn: P");
        }
      }

      assertThat(unreachable(reader).code()).isEqualTo("ldap-size-limit-exceeded");
      assertThat(unreachable(reader).remedy()).contains("size limit");
    }
  }

  @Test
  public void whoMayNotWriteIsToldSo() throws Exception {
    try (var slapd = Slapd.start("", "");
        var reader = open(slapd, Map.of("bindDn", Slapd.READER))) {
      var refused = problem(create(reader, "one", Map.of()), Outcome.Refused.class);

      assertThat(refused.code()).isEqualTo("ldap-insufficient-access-rights");
      assertThat(refused.remedy()).contains("right");
    }
  }

  @Test
  public void whatMayBeWrittenIsTriedAndNothingIsWritten() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of());
        var reader = open(slapd, Map.of("bindDn", Slapd.READER))) {
      assertThat(connector.inspect().tried())
          .as("nobody is there yet")
          .extracting(Tried::what)
          .doesNotContain("change accounts");
      make(connector, "one", Map.of("title", "Mate", "emails.work", "one@skerrow.example"));
      var before = contents(slapd);

      assertThat(wrong(connector)).isEmpty();
      assertThat(connector.capabilities().writable()).contains("title", "manager");
      assertThat(wrong(reader)).contains("change accounts", "change groups");

      slapd.configure(
          "access to attrs=title,mail by * read\naccess to dn.subtree=\"%s\" by * read"
              .formatted(StaffDirectory.GROUPS),
          "");
      assertThat(wrong(connector)).containsExactly("change groups");
      assertThat(connector.capabilities().writable())
          .doesNotContain("title", "emails.work")
          .contains("name.familyName", "manager");
      assertThat(contents(slapd)).isEqualTo(before);
    }
  }

  private static List<String> wrong(Connector connector) throws Exception {
    return connector.inspect().tried().stream()
        .filter(one -> !one.isWell())
        .map(Tried::what)
        .toList();
  }

  /** All entries with what the server says of when they changed. */
  private static List<String> contents(Slapd slapd) throws Exception {
    try (var root = slapd.root()) {
      return root
          .search(Slapd.BASE, SearchScope.SUB, "(objectClass=*)", "*", "+")
          .getSearchEntries()
          .stream()
          .map(entry -> entry.toLDIFString())
          .toList();
    }
  }

  @Test
  public void aWrongPasswordRestsTheApplication() throws Exception {
    try (var slapd = Slapd.start("", "");
        var stranger = open(slapd, Map.of("bindDn", "cn=nobody," + Slapd.BASE))) {
      var later = problem(create(stranger, "one", Map.of()), Outcome.RetryLater.class);

      assertThat(later.remedy()).contains("password");
    }
  }

  @Test
  public void whatTheSchemaLacksIsFoundWithoutWriting() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector =
            open(
                slapd,
                Map.of(
                    "objectClasses", "inetOrgPerson,harbourPilot",
                    "originAttribute", "pilotKey",
                    "groups", "ou=nowhere," + Slapd.BASE,
                    "attributes", "tattoo=tattoo"))) {
      var inspection = connector.inspect();

      assertThat(inspection.tried().stream().filter(one -> !one.isWell()))
          .extracting(Tried::problem)
          .extracting(Problem::code)
          .contains("schema-lacks-name", "base-not-there");
      assertThat(inspection.capabilities().writable()).contains("title").doesNotContain("tattoo");
      assertThat(inspection.capabilities().required()).contains("name.familyName");
    }
  }

  @Test
  public void aDirectoryWithNoWayToSuspendSaysSo() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of("switchAttribute", "", "suspend", ""))) {
      assertThat(connector.inspect().tried().stream().filter(one -> !one.isWell()))
          .extracting(one -> one.problem().code())
          .containsExactly("no-way-to-suspend");
      var made = make(connector, "one", Map.of());

      assertThat(
              problem(
                      connector.apply(new Instruction.SetUsable(made.id(), false)),
                      Outcome.Refused.class)
                  .code())
          .isEqualTo("no-way-to-suspend");
    }
  }

  @Test
  public void whatSomebodyElseChangedMeanwhileIsNotOverwritten() throws Exception {
    try (var directory = new StaffDirectory(0, "secret");
        var connector =
            EmbeddedDirectoryTest.open(
                "directory", EmbeddedDirectoryTest.settings(directory.port()))) {
      var made = make(connector, "one", Map.of("title", "Mate"));
      directory.beforeNextModify(() -> directory.edit("one", "title", "Bosun"));

      var met = update(connector, made.id(), "title", "Cook");

      assertThat(problem(met, Outcome.Met.class).code()).isEqualTo("ldap-assertion-failed");
      assertThat(connector.find(made.id()).orElseThrow().texts("title")).containsExactly("Bosun");
      assertThat(update(connector, made.id(), "title", "Cook")).isInstanceOf(Outcome.Applied.class);
    }
  }

  @Test
  public void whatMayNotBeWrittenIsNamedWhenItCouldNotFollowARename() throws Exception {
    var kept = "access to dn.exact=\"uid=kept,%s\" by * read".formatted(StaffDirectory.PEOPLE);
    try (var slapd = Slapd.start("", "");
        var before = open(slapd, Map.of())) {
      var boss = make(before, "boss", Map.of()).id();
      var kept1 = make(before, "kept", Map.of("manager", boss, "name.formatted", "Una Kept")).id();
      var free = make(before, "free", Map.of("manager", boss)).id();
      slapd.configure(kept, "");

      try (var connector = open(slapd, Map.of())) {
        var rename = renamed(boss, "boss", "chief");
        var left = problem(connector.apply(rename), Outcome.Refused.class);

        assertThat(left.code()).isEqualTo("references-left-behind");
        assertThat(left.what()).contains("1 in slapd").contains("manager of Una Kept.");
        assertThat(connector.find(boss).orElseThrow().texts("userName")).containsExactly("chief");
        assertThat(connector.find(free).orElseThrow().texts("manager")).containsExactly(boss);

        assertThat(problem(connector.apply(rename), Outcome.Refused.class).code())
            .as("again, though the entry has its new name")
            .isEqualTo("references-left-behind");
        slapd.configure("", "");
        assertThat(connector.apply(rename)).isInstanceOf(Outcome.Applied.class);
        assertThat(connector.find(kept1).orElseThrow().texts("manager")).containsExactly(boss);
      }
    }
  }

  @Test
  public void whatRefersToAnEntryFollowsThoughItWasRenamedBefore() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of())) {
      var boss = make(connector, "boss", Map.of()).id();
      var one = make(connector, "one", Map.of("manager", boss)).id();
      try (var root = slapd.root()) {
        root.modifyDN("uid=boss," + StaffDirectory.PEOPLE, "uid=chief", true);
      }
      var rename = renamed(boss, "boss", "chief");
      assertThat(connector.references().orElseThrow().followOn(rename)).isTrue();
      assertThat(connector.references().orElseThrow().to(boss)).isEmpty();

      assertThat(connector.apply(rename)).isInstanceOf(Outcome.Applied.class);

      assertThat(connector.find(one).orElseThrow().texts("manager")).containsExactly(boss);
    }
  }

  @Test
  public void whatRefersToANameThatSomebodyElseHasByNowIsLeftAlone() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of())) {
      var boss = make(connector, "boss", Map.of()).id();
      try (var root = slapd.root()) {
        root.modifyDN("uid=boss," + StaffDirectory.PEOPLE, "uid=chief", true);
      }
      var other = new TreeMap<>(Map.of("userName", List.of("boss")));
      other.putAll(
          Map.of("name.familyName", List.of("Gull"), "name.formatted", List.of("Una Gull")));
      var successor =
          ((Outcome.Applied) connector.apply(new Instruction.Create("ebb-other", true, other)))
              .account()
              .orElseThrow()
              .id();
      var one = make(connector, "one", Map.of("manager", successor)).id();

      assertThat(connector.apply(renamed(boss, "boss", "chief")))
          .isInstanceOf(Outcome.Applied.class);

      assertThat(connector.find(one).orElseThrow().texts("manager")).containsExactly(successor);
    }
  }

  private static Instruction renamed(String id, String before, String now) {
    return new Instruction.Update(
        id,
        new TreeMap<>(Map.of("userName", List.of(now))),
        new TreeMap<>(Map.of("userName", List.of(before))));
  }

  @Test
  public void aNameThatLeadsIntoTheOwnNetworkIsNotCalled() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, Map.of("network", "public"))) {
      assertThat(unreachable(connector).code()).isEqualTo("address-internal");
    }
  }

  private static Connector open(Slapd slapd, Map<String, String> otherwise) {
    var settings = EmbeddedDirectoryTest.settings(slapd.port());
    settings.putAll(otherwise);
    settings.values().removeIf(String::isEmpty);
    return EmbeddedDirectoryTest.open("slapd", settings);
  }

  private static Problem unreachable(Connector connector) {
    return catchThrowableOfType(Unreachable.class, () -> connector.readAll(_ -> {})).problem();
  }

  private static <T extends Outcome> Problem problem(Outcome outcome, Class<T> expected) {
    assertThat(outcome).isInstanceOf(expected);
    return switch (outcome) {
      case Outcome.Refused(var problem) -> problem;
      case Outcome.Unknown(var problem) -> problem;
      case Outcome.Met(var problem) -> problem;
      case Outcome.RetryLater(_, var problem) -> problem;
      default -> throw new AssertionError(outcome);
    };
  }

  private static ObservedAccount make(
      Connector connector, String name, Map<String, String> values) {
    return ((Outcome.Applied) create(connector, name, values)).account().orElseThrow();
  }

  private static Outcome update(Connector connector, String id, String name, String value) {
    return connector.apply(new Instruction.Update(id, new TreeMap<>(Map.of(name, List.of(value)))));
  }

  private static Outcome create(Connector connector, String name, Map<String, String> more) {
    var values =
        new TreeMap<>(
            Map.of(
                "userName", List.of(name),
                "name.familyName", List.of("Holm"),
                "name.formatted", List.of("Ida Holm")));
    more.forEach((attribute, text) -> values.put(attribute, List.of(text)));
    return connector.apply(new Instruction.Create("ebb-" + name, true, values));
  }
}
