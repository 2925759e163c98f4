package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import ebb.core.application.Connector;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Those who own a group, as a group that can be given. */
public class LdapOwnersTest {
  private static final String WATCH = "cn=watch," + StaffDirectory.GROUPS;
  private static final String OWNERS = "owners of watch";

  @DataProvider
  Object[][] servers() {
    return new Object[][] {
      {"moduleload syncprov", "overlay syncprov\nsyncprov-sessionlog 1000"}, {"", ""}
    };
  }

  @Test(dataProvider = "servers")
  public void whoOwnsAGroupIsGivenItReadAndTakenOutOfIt(String global, String overlays)
      throws Exception {
    try (var slapd = Slapd.start(global, overlays);
        var connector = open(slapd, "given")) {
      var ada = make(connector, "ada");
      var bo = make(connector, "bo");
      var first = new Seen();
      var mark = first.read(connector, null).mark();
      assertThat(first.groups).containsKeys("watch", OWNERS);
      assertThat(first.groups.get(OWNERS).id()).isNotEqualTo(first.groups.get("watch").id());

      assertThat(applied(connector.apply(new Instruction.Join(ada.id(), OWNERS))).groups())
          .containsExactly(OWNERS);
      applied(connector.apply(new Instruction.Join(ada.id(), OWNERS)));
      applied(connector.apply(new Instruction.Join(bo.id(), OWNERS)));
      assertThat(owners(slapd)).containsExactlyInAnyOrder(dn("ada"), dn("bo"));

      var second = new Seen();
      second.read(connector, mark);
      assertThat(second.members.get(OWNERS)).containsExactlyInAnyOrder(ada.id(), bo.id());
      assertThat(second.groups.get("watch").owners()).containsExactlyInAnyOrder(ada.id(), bo.id());
      var whole = new Seen();
      whole.read(connector, null);
      assertThat(whole.changed.get(bo.id()).groups()).containsExactly(OWNERS);
      assertThat(connector.references().orElseThrow().to(ada.id()))
          .as("a group somebody is in does not refer to them")
          .isEmpty();

      assertThat(applied(connector.apply(new Instruction.Leave(ada.id(), OWNERS))).groups())
          .isEmpty();
      connector.apply(new Instruction.Delete(bo.id()));
      assertThat(owners(slapd)).isEmpty();
    }
  }

  @Test
  public void aGroupThatGoesTakesThoseWhoOwnedItAlong() throws Exception {
    try (var slapd =
            Slapd.start("moduleload syncprov", "overlay syncprov\nsyncprov-sessionlog 1000");
        var connector = open(slapd, "given")) {
      var first = new Seen();
      var mark = first.read(connector, null).mark();
      try (var root = slapd.root()) {
        root.delete(WATCH);
      }
      var second = new Seen();
      second.read(connector, mark);

      assertThat(second.groupsGone)
          .containsExactlyInAnyOrder(first.groups.get("watch").id(), first.groups.get(OWNERS).id());
    }
  }

  @Test
  public void whereOwnersAreOnlyShownTheyReferToTheEntryAndFollowItsName() throws Exception {
    try (var slapd = Slapd.start("", "");
        var connector = open(slapd, "shown")) {
      var ada = make(connector, "ada");
      try (var root = slapd.root()) {
        root.modify(WATCH, new Modification(ModificationType.ADD, "owner", dn("ada")));
      }

      assertThat(connector.find(ada.id()).orElseThrow().groups()).isEmpty();
      assertThat(connector.references().orElseThrow().to(ada.id()))
          .extracting("what")
          .containsExactly("owner of watch");
      assertThat(connector.apply(new Instruction.Join(ada.id(), OWNERS)))
          .isInstanceOf(Outcome.Refused.class);
      applied(
          connector.apply(
              new Instruction.Update(
                  ada.id(), new TreeMap<>(Map.of("userName", List.of("ada2"))))));
      assertThat(owners(slapd)).containsExactly(dn("ada2"));
    }
  }

  private static List<String> owners(Slapd slapd) throws Exception {
    try (var root = slapd.root()) {
      return Entries.texts(root.getEntry(WATCH, "owner"), "owner");
    }
  }

  private static Connector open(Slapd slapd, String owners) {
    var settings = EmbeddedDirectoryTest.settings(slapd.port());
    settings.put("owners", owners);
    return EmbeddedDirectoryTest.open("slapd", settings);
  }

  private static String dn(String name) {
    return "uid=%s,%s".formatted(name, StaffDirectory.PEOPLE);
  }

  private static ObservedAccount make(Connector connector, String name) {
    return applied(
        connector.apply(
            new Instruction.Create(
                "ebb-" + name,
                true,
                new TreeMap<>(
                    Map.of(
                        "userName", List.of(name),
                        "name.familyName", List.of("Holm"),
                        "name.formatted", List.of("Ida Holm"))))));
  }

  private static ObservedAccount applied(Outcome outcome) {
    return switch (outcome) {
      case Outcome.Applied(var account) -> account.orElseThrow();
      case Outcome.AlreadyInPlace(var account) -> account.orElseThrow();
      default -> throw new AssertionError(outcome.toString());
    };
  }
}
