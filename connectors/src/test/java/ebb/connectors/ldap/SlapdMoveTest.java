package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.core.application.Instruction;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Outcome;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The contract against a slapd in which people stand below their units, and the suspended
 * elsewhere; nothing there keeps references in step.
 */
public class SlapdMoveTest extends SlapdContract {

  @BeforeClass
  void start() throws Exception {
    slapd = Slapd.start("", "");
    var settings = EmbeddedDirectoryTest.settings(slapd.port());
    settings.remove("switchAttribute");
    settings.putAll(Map.of("suspend", "move", "suspended", Slapd.SUSPENDED, "containers", "ou"));
    connector = EmbeddedDirectoryTest.open("slapd", settings);
  }

  @Override
  protected boolean canSignIn(String userName, String password) throws Exception {
    try (var root = slapd.root()) {
      var entry =
          root.searchForEntry(
              Slapd.BASE, SearchScope.SUB, Filter.createEqualityFilter("uid", userName), "1.1");
      return slapd.canBind(entry.getDN(), password);
    }
  }

  @DataProvider
  Object[][] names() {
    return new Object[][] {
      {"plain"},
      {"#leading"},
      {" leading and trailing "},
      {"comma, plus+ \"quote\" \\back <less> ;semi = equals"},
      {"star* (paren) \\2a"},
      {"e\u0301 combining, \u05d0\u05d1\u05d2 right to left, \ud83d\udea2"},
      {"slash/in it"},
      {"x".repeat(200)},
    };
  }

  @Test(dataProvider = "names")
  public void anyNameIsMadeFoundMovedRenamedGroupedAndDeleted(String name) throws Exception {
    var made = make("n-" + name, name, List.of("Fleet/Deck"));
    assertThat(made.texts("userName")).containsExactly(name);
    assertThat(made.texts(LdapSettings.CONTAINER)).containsExactly("Fleet/Deck");
    var boss = make("r-" + name, "report of " + name.strip(), List.of());
    applied(update(boss.id(), "manager", made.id()));
    applied(connector.apply(new Instruction.Join(made.id(), "watch")));

    var other = name + "2";
    var moved =
        applied(
            connector.apply(
                new Instruction.Update(
                    made.id(),
                    new TreeMap<>(
                        Map.of(
                            "userName",
                            List.of(other),
                            LdapSettings.CONTAINER,
                            List.of("Fleet/Engine \\/ #1"))))));

    assertThat(moved.id()).isEqualTo(made.id());
    assertThat(moved.texts("userName")).containsExactly(other);
    assertThat(moved.texts(LdapSettings.CONTAINER)).containsExactly("Fleet/Engine \\/ #1");
    assertThat(moved.groups()).containsExactly("watch");
    assertThat(connector.find(boss.id()).orElseThrow().texts("manager")).containsExactly(made.id());
    assertThat(connector.references().orElseThrow().to(made.id()))
        .extracting("kind")
        .containsExactly("manager");
    var off = applied(connector.apply(new Instruction.SetUsable(made.id(), false)));
    assertThat(off.usable()).isFalse();
    assertThat(off.texts(LdapSettings.CONTAINER)).containsExactly("Fleet/Engine \\/ #1");
    assertThat(connector.apply(new Instruction.Delete(made.id())))
        .isInstanceOf(Outcome.Applied.class);
  }

  @Test
  public void anEntryCanBeEmptiedOfAllThatItsSchemaDoesNotDemand() throws Exception {
    var made = make("emptied", "Ida Holm", List.of("Fleet/Deck"));
    applied(update(made.id(), "title", "Mate"));
    var full = applied(connector.apply(new Instruction.SetUsable(made.id(), false)));
    var capabilities = connector.capabilities();
    var values = new TreeMap<String, List<String>>();
    for (var name : full.values().keySet()) {
      values.put(name, capabilities.required().contains(name) ? List.of("former-7") : List.of());
    }

    applied(connector.apply(new Instruction.Update(made.id(), values)));

    var left = connector.find(made.id()).orElseThrow();
    assertThat(left.usable()).isFalse();
    assertThat(left.values().values().stream().filter(texts -> !texts.isEmpty()))
        .isNotEmpty()
        .allMatch(List.of("former-7")::equals);
    assertThat(left.texts(LdapSettings.CONTAINER)).isEmpty();
  }

  @Test
  public void theLastMemberMayLeaveAGroupThatMustNotBeEmpty() throws Exception {
    var made = make("only", "only", List.of());
    slapd.add(
        "dn: cn=alone," + StaffDirectory.GROUPS,
        "objectClass: groupOfUniqueNames",
        "cn: alone",
        "uniqueMember: uid=only," + StaffDirectory.PEOPLE);
    assertThat(connector.find(made.id()).orElseThrow().groups()).containsExactly("alone");

    assertThat(applied(connector.apply(new Instruction.Leave(made.id(), "alone"))).groups())
        .isEmpty();
    assertThat(applied(connector.apply(new Instruction.Join(made.id(), "alone"))).groups())
        .containsExactly("alone");
  }

  @Test
  public void aRenameToANameThatIsTakenIsRefused() {
    make("taken-1", "taken", List.of());
    var other = make("taken-2", "other", List.of());

    assertThat(update(other.id(), "userName", "taken"))
        .isInstanceOfSatisfying(
            Outcome.Refused.class,
            refused -> assertThat(refused.problem().code()).isEqualTo("ldap-entry-already-exists"));
  }

  @Test
  public void whatIsSoAlreadyIsNotWritten() throws Exception {
    var made = make("same", "same", List.of("Fleet"));
    var before = changedAt(made);

    applied(update(made.id(), "name.familyName", "Holm"));

    assertThat(changedAt(made)).isEqualTo(before);
  }

  private String changedAt(ObservedAccount account) throws Exception {
    try (var root = slapd.root()) {
      return root.searchForEntry(
              Slapd.BASE,
              SearchScope.SUB,
              Filter.createEqualityFilter("entryUUID", account.id()),
              "entryCSN")
          .getAttributeValue("entryCSN");
    }
  }

  private Outcome update(String id, String name, String value) {
    return connector.apply(new Instruction.Update(id, new TreeMap<>(Map.of(name, List.of(value)))));
  }

  private ObservedAccount make(String origin, String name, List<String> container) {
    return applied(
        connector.apply(
            new Instruction.Create(
                origin,
                true,
                new TreeMap<>(
                    Map.of(
                        "userName",
                        List.of(name),
                        "name.familyName",
                        List.of("Holm"),
                        "name.formatted",
                        List.of("Ida Holm"),
                        LdapSettings.CONTAINER,
                        container)))));
  }

  private static ObservedAccount applied(Outcome outcome) {
    assertThat(outcome).isInstanceOf(Outcome.Applied.class);
    return ((Outcome.Applied) outcome).account().orElseThrow();
  }
}
