package ebb.service.people;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import ebb.service.changes.Carrying;
import java.nio.file.Files;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** People who have one name only come in as all others, and are called by it. */
public class OneNameTest {
  private static JsonNode person(String family) {
    var found =
        InProcess.client()
            .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
            .at("/items/0/id")
            .asString();
    return InProcess.client().json("people", "show", found);
  }

  private static void isCalled(String name, String login) throws Exception {
    Carrying.out();
    var person = person(name);
    assertThat(person.path("displayName").asString()).isEqualTo(name);
    assertThat(person.path("login").asString()).isEqualTo(login);
    assertThat(InProcess.stage().mailHouse().accounts().byName(login).path("displayName").asText())
        .isEqualTo(name);
    assertThat(InProcess.stage().directory().person(login).getAttributeValue("sn")).isEqualTo(name);
    assertThat(InProcess.client().done("changes", "list")).doesNotContain("null");
  }

  @Test
  public void whoIsAddedByHandNeedsNoGivenName() throws Exception {
    InProcess.released("people", "add", "name.familyName=Suhartika", "userType=employee");

    isCalled("Suhartika", "suhartika");
  }

  @Test
  public void aFileNeedsNoGivenNames() throws Exception {
    var home = InProcess.stage().home();
    var columns =
        """
        {"rank": 10, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Kind": "userType"}}
        """;
    InProcess.client()
        .done("sources", "put", "names", Files.writeString(home.resolve("n.json"), columns) + "");
    var file =
        Files.writeString(
            home.resolve("names.csv"), "No,Family,Given,Kind\nN1,Wulandari,,employee\n");

    InProcess.release(
        InProcess.client()
            .json("imports", "add", file.toString(), "--source=names")
            .path("changeSet")
            .asString());

    isCalled("Wulandari", "wulandari");
  }
}
