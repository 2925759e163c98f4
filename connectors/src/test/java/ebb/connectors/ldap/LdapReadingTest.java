package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Outcome;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a reading comes past, of everything and of what changed since. */
public class LdapReadingTest {
  private static final String SYNC = "moduleload syncprov";
  private static final String WITH_LOG = "overlay syncprov\nsyncprov-sessionlog 1000";

  /** Servers that name what is gone, that name what is left, and that do neither. */
  @DataProvider
  Object[][] servers() {
    return new Object[][] {{SYNC, WITH_LOG}, {SYNC, "overlay syncprov"}, {"", ""}};
  }

  @Test(dataProvider = "servers")
  public void afterAFirstReadingOnlyWhatChangedIsComePast(String global, String overlays)
      throws Exception {
    try (var slapd = Slapd.start(global, overlays);
        var connector = open(slapd)) {
      for (int i = 0; i < 19; i++) {
        make(connector, "p" + i);
      }
      try (var root = slapd.root()) {
        for (var group : List.of("quiet", "passing")) {
          root.add(
              "dn: cn=%s,%s".formatted(group, StaffDirectory.GROUPS),
              "objectClass: groupOfNames",
              "cn: " + group,
              "member: " + dn("p1"));
        }
      }
      // The last second comes again where the server tells no finer time.
      Thread.sleep(1_100);
      make(connector, "p19");
      var first = new Seen();
      var mark = first.read(connector, null).mark();
      assertThat(first.changed).hasSize(20);
      try (var root = slapd.root()) {
        root.modify(
            dn("p3"), new Modification(ModificationType.REPLACE, "title", "behind our back"));
        root.delete(dn("p4"));
        root.delete("cn=passing," + StaffDirectory.GROUPS);
        root.modifyDN(dn("p5"), "uid=p5-renamed", true);
        root.modify(
            "cn=watch," + StaffDirectory.GROUPS,
            new Modification(ModificationType.ADD, "member", dn("p6")));
      }
      var made = make(connector, "new");

      var second = new Seen();
      var reading = second.read(connector, mark);

      assertThat(second.changed)
          .containsKeys(first.id("p3"), first.id("p5"), made.id())
          .hasSizeLessThan(20);
      assertThat(second.changed.get(first.id("p3")).texts("title"))
          .containsExactly("behind our back");
      assertThat(second.left(first, reading)).doesNotContain(first.id("p4")).hasSize(20);
      assertThat(second.groupsLeft(first, reading))
          .as("what did not change is there, and what was deleted is not")
          .containsExactlyInAnyOrder(
              first.groups.get("watch").id(),
              first.groups.get("crew").id(),
              first.groups.get("quiet").id());
      assertThat(second.members.get("watch")).containsExactly(first.id("p6"));
      var third = new Seen();
      third.read(connector, reading.mark());
      assertThat(third.gone).isEmpty();
      assertThat(third.changed).hasSizeLessThan(20);
    }
  }

  @Test
  public void aMarkOfAnotherKindReadsEverything() throws Exception {
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var connector = open(slapd)) {
      make(connector, "one");
      var seen = new Seen();

      assertThat(seen.read(connector, "page 7").whole()).isTrue();

      assertThat(seen.changed).hasSize(1);
    }
  }

  @Test
  public void whereMoreChangedThanMayBeReadAtOnceEverythingIsReadByPages() throws Exception {
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var connector = open(slapd)) {
      var mark = new Seen().read(connector, null).mark();
      for (int i = 0; i < 120; i++) {
        make(connector, "p" + i);
      }
      var seen = new Seen();

      assertThat(seen.read(connector, mark).whole()).isTrue();

      assertThat(seen.changed).hasSize(120);
    }
  }

  @Test
  public void aServerFilledAnewIsNotTakenForOneThatLostAll() throws Exception {
    String mark;
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var connector = open(slapd)) {
      make(connector, "one");
      mark = new Seen().read(connector, null).mark();
    }
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var connector = open(slapd)) {
      make(connector, "two");
      var seen = new Seen();

      var reading = seen.read(connector, mark);

      assertThat(reading.whole()).isTrue();
      assertThat(seen.changed).hasSize(1);
    }
  }

  @Test
  public void groupsSayWhoOwnsThemAndWhoInThemIsNobody() throws Exception {
    try (var slapd = Slapd.start(SYNC, WITH_LOG);
        var connector = open(slapd)) {
      var ada = make(connector, "ada");
      slapd.add(
          "dn: cn=all hands," + StaffDirectory.GROUPS,
          "objectClass: groupOfNames",
          "cn: all hands",
          "owner: " + dn("ada"),
          "member: " + dn("ada"),
          "member: cn=watch," + StaffDirectory.GROUPS,
          "member: uid=long gone," + StaffDirectory.PEOPLE);
      var seen = new Seen();
      var mark = seen.read(connector, null).mark();
      var expected =
          new ObservedGroup(
              "",
              "all hands",
              List.of(ada.id()),
              new TreeSet<>(Set.of("watch")),
              new TreeSet<>(Set.of("uid=long gone,ou=people,dc=skerrow,dc=example")));

      assertThat(seen.groups.get("all hands"))
          .usingRecursiveComparison()
          .ignoringFields("id")
          .isEqualTo(expected);
      assertThat(seen.changed.get(ada.id()).groups()).containsExactly("all hands");

      try (var root = slapd.root()) {
        root.modify(
            "cn=all hands," + StaffDirectory.GROUPS,
            new Modification(ModificationType.REPLACE, "description", "touched"));
      }
      var again = new Seen();
      again.read(connector, mark);
      assertThat(again.groups.get("all hands"))
          .usingRecursiveComparison()
          .ignoringFields("id")
          .isEqualTo(expected);
    }
  }

  @Test
  public void oneLooksAtAllThatAnEntryHolds() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd)) {
      var ada = make(connector, "ada");
      try (var root = slapd.root()) {
        root.modify(
            dn("ada"),
            new Modification(ModificationType.REPLACE, "carLicense", "SK 1"),
            new Modification(ModificationType.REPLACE, "userPassword", "secret"));
      }

      var details = connector.details(ada.id()).orElseThrow();

      assertThat(details.values()).containsEntry("carLicense", List.of("SK 1"));
      assertThat(details.values()).doesNotContainKey("userPassword");
      assertThat(details.changedBy()).isEqualTo(Slapd.ROOT);
      assertThat(details.changedAt()).isNotNull();
      assertThat(connector.details("00000000-0000-0000-0000-000000000000")).isEmpty();
    }
  }

  private static Connector open(Slapd slapd) {
    return EmbeddedDirectoryTest.open("slapd", EmbeddedDirectoryTest.settings(slapd.port()));
  }

  private static String dn(String name) {
    return "uid=%s,%s".formatted(name, StaffDirectory.PEOPLE);
  }

  private static ObservedAccount make(Connector connector, String name) {
    var values =
        new TreeMap<>(
            Map.of(
                "userName", List.of(name),
                "name.familyName", List.of("Holm"),
                "name.formatted", List.of("Ida Holm")));
    var outcome = connector.apply(new Instruction.Create("ebb-" + name, true, values));
    return ((Outcome.Applied) outcome).account().orElseThrow();
  }
}
