package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Equality;
import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.standins.Slapd;
import ebb.standins.StaffDirectory;
import java.util.Map;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The same contract against Debian's slapd, with an attribute that suspends. */
public class SlapdTest extends SlapdContract {

  @BeforeClass
  void start() throws Exception {
    slapd = Slapd.start("moduleload refint", "overlay refint\nrefint_attributes manager member");
    connector = EmbeddedDirectoryTest.open("slapd", EmbeddedDirectoryTest.settings(slapd.port()));
  }

  @Test
  public void takesEqualityFromTheMatchingRules() throws Unreachable {
    assertThat(connector.capabilities().equality())
        .containsAllEntriesOf(
            Map.of(
                "title",
                Equality.IGNORE_CASE_AND_SPACE,
                "phoneNumbers.mobile",
                Equality.TELEPHONE));
  }

  @Test
  public void anEntrySomebodyElseMadeGetsTheClassByWhichItIsSwitchedOff() throws Exception {
    slapd.add(
        "dn: uid=found," + StaffDirectory.PEOPLE,
        "objectClass: inetOrgPerson",
        "uid: found",
        "sn: Found",
        "cn: Found");
    String id;
    try (var root = slapd.root()) {
      id =
          root.getEntry("uid=found," + StaffDirectory.PEOPLE, "entryUUID")
              .getAttributeValue("entryUUID");
    }

    assertThat(connector.apply(new Instruction.SetUsable(id, false)))
        .isInstanceOfSatisfying(
            Outcome.Applied.class,
            applied -> assertThat(applied.account().orElseThrow().usable()).isFalse());
  }
}
