package ebb.connectors.ldap;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.application.Instruction;
import ebb.core.application.Outcome;
import ebb.core.application.Secret;
import ebb.standins.Slapd;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The contract against a slapd whose password policy locks entries, and keeps sign-ins. */
public class SlapdLockTest extends SlapdContract {
  private static final String POLICY = "cn=policy,ou=services," + Slapd.BASE;

  @BeforeClass
  void start() throws Exception {
    slapd =
        Slapd.start(
            "moduleload ppolicy",
            "lastbind on\noverlay ppolicy\nppolicy_default " + POLICY + "\nppolicy_use_lockout");
    slapd.add(
        "dn: " + POLICY,
        "objectClass: applicationProcess",
        "objectClass: pwdPolicy",
        "cn: policy",
        "pwdAttribute: userPassword",
        "pwdMinLength: 8",
        "pwdCheckQuality: 1",
        "pwdInHistory: 3",
        "pwdLockout: TRUE");
    var settings = EmbeddedDirectoryTest.settings(slapd.port());
    settings.remove("switchAttribute");
    settings.putAll(Map.of("suspend", "lock", "lastSignIn", "pwdLastSuccess"));
    connector = EmbeddedDirectoryTest.open("slapd", settings);
  }

  @Test
  public void aPasswordThePolicyForbidsIsRefusedInItsWords() {
    var id = ada("ada-short");

    assertThat(password(id, "short"))
        .isInstanceOfSatisfying(
            Outcome.Refused.class,
            refused -> assertThat(refused.problem().why()).isEqualTo("It is too short."));
  }

  @Test
  public void saysWhenSomebodyLastSignedIn() throws Exception {
    var id = ada("ada-use");
    password(id, "a-lantern-on-the-quay");
    var activity = connector.activity().orElseThrow();
    assertThat(activity.of(id).orElseThrow().signedInAt()).isNull();

    assertThat(canSignIn("ada-use", "a-lantern-on-the-quay")).isTrue();

    assertThat(activity.of(id).orElseThrow().signedInAt()).isNotNull();
    assertThat(activity.of("00000000-0000-0000-0000-000000000000")).isEmpty();
  }

  private Outcome password(String id, String password) {
    return connector.apply(new Instruction.SetPassword(id, new Secret(password)));
  }

  private String ada(String name) {
    var values =
        new TreeMap<>(
            Map.of(
                "userName", List.of(name),
                "name.familyName", List.of("Finch"),
                "name.formatted", List.of("Ada Finch")));
    var outcome = connector.apply(new Instruction.Create("ebb-" + name, true, values));
    return ((Outcome.Applied) outcome).account().orElseThrow().id();
  }
}
