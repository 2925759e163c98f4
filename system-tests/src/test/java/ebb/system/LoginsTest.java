package ebb.system;

import static ebb.system.Eventually.waitUntil;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** An organisation calls its people as it wants to, and whoever has a name keeps it. */
public class LoginsTest extends WithService {
  private static final String FIRST_LETTER =
      "fold(person.name.givenName).substring(0, 1) + fold(person.name.familyName)";

  @BeforeClass
  void bringPeople() throws Exception {
    lists.source(
        "crew", 100, "No", "Family=name.familyName", "Given=name.givenName", "Kind=userType");
    lists.release(list("1,Holm,Ida,employee", "2,Marwick,Robert,employee"));
  }

  private JsonNode list(String... rows) throws Exception {
    return lists.bring("crew", "No,Family,Given,Kind", List.of(rows));
  }

  private String login(String family) {
    return client.json("people", "show", lists.person(family)).path("login").asString();
  }

  /** Each step goes on from where the one before left off. */
  @Test
  public void aSchemeIsTriedSetAndTakenAlong() throws Exception {
    aSchemeIsTriedOnThoseWhoAreKnownAndKeepsNothing();
    whatIsWrongWithASchemeIsSaidAllAtOnce();
    whoeverComesOrIsRenamedIsCalledByItAndNobodyElse();
    aSchemeGoesWithTheConfiguration();
  }

  private void aSchemeIsTriedOnThoseWhoAreKnownAndKeepsNothing() {
    assertThat(client.done("logins", "try", "--made-of=" + FIRST_LETTER, "--reserve=iholm"))
        .containsPattern("Robert Marwick +robert.marwick +rmarwick")
        .containsPattern("Ida Holm +ida.holm +iholm2");
    assertThat(client.done("logins", "show")).contains("Logins are given.family, 20 characters");
  }

  private void whatIsWrongWithASchemeIsSaidAllAtOnce() {
    var refused =
        client.run(
            "logins",
            "set",
            "--made-of=fold(person.name.familyNam)",
            "--made-of=login + '2'",
            "--made-of=fold(",
            "--longest=99");

    assertThat(refused.exitCode()).isNotZero();
    assertThat(refused.err())
        .contains("People have no attribute name.familyNam")
        .contains("undeclared reference to 'login'")
        .contains("The expression fold( cannot be understood")
        .contains("99 is no length for logins");
  }

  private void whoeverComesOrIsRenamedIsCalledByItAndNobodyElse() throws Exception {
    client.done("logins", "set", "--made-of=" + FIRST_LETTER, "--reserve=ptern", "--reason=short");
    lists.release(
        list(
            "1,Holm,Ida,employee",
            "2,Marwick,Robert,employee",
            "3,Tern,Per,employee",
            "4,Vik,Nora,employee"));
    assertThat(login("Vik")).isEqualTo("nvik");
    assertThat(login("Tern")).as("reserved").isEqualTo("ptern2");
    client.done("people", "edit", lists.person("Holm"), "title=Bosun", "--release");
    assertThat(login("Holm")).as("edited, and not renamed").isEqualTo("ida.holm");

    client.done("people", "rename", lists.person("Marwick"), "--family=Gull", "--release");
    waitUntil("renamed", () -> login("Gull").equals("rgull"));
    assertThat(client.done("logins", "set", "--reason=as before")).contains("given.family");
    client.done("people", "edit", lists.person("Vik"), "title=Mate", "--release");
    assertThat(login("Vik")).as("by the scheme of then").isEqualTo("nvik");
    assertThat(client.done("journal", "list")).contains("set how logins are made: given.family");
  }

  private void aSchemeGoesWithTheConfiguration() throws Exception {
    client.done("logins", "set", "--made-of=" + FIRST_LETTER, "--longest=12");
    Path folder = stage.home().resolve("logins");
    client.done("config", "export", folder.toString());
    assertThat(Files.readString(folder.resolve("logins/login.json"))).contains("12");
    client.done("logins", "set");

    assertThat(client.done("config", "check", folder.toString())).contains("longest");
    client.done("config", "load", folder.toString());
    assertThat(client.done("logins", "show")).contains(FIRST_LETTER + ", 12 characters");
  }
}
