package ebb.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** What was made for a group before somebody came or went does not follow, and is made to. */
public class EarlierItemsTest extends WithService {
  private static final String GROUP = "bridge-watch";

  @BeforeClass
  void bringPeople() throws Exception {
    stage.mailHouse().accounts().addGroup(GROUP);
    lists.source(
        "crew", 100, "No", "Family=name.familyName", "Given=name.givenName", "Kind=userType");
    lists.release(
        lists.bring(
            "crew",
            "No,Family,Given,Kind",
            List.of("1,Holm,Ida,employee", "2,Marwick,Robert,employee")));
    client.settle();
  }

  private String account(String login) {
    return stage.mailHouse().accounts().byName(login).path("id").asText();
  }

  private void grant(String family) {
    client.done(
        "people",
        "grant",
        lists.person(family),
        "--application=mail-house",
        "--group=" + GROUP,
        "--reason=watch",
        "--release");
  }

  @Test
  public void whoeverComesOrGoesLaterIsPutRightInWhatWasMadeBefore() throws Exception {
    grant("Holm");
    stage.mailHouse().gatherings().make("meeting", "Change of watch", GROUP);
    client.done("applications", "sync", "mail-house");

    var joining =
        client.json(
            "people",
            "grant",
            lists.person("Marwick"),
            "--application=mail-house",
            "--group=" + GROUP,
            "--reason=watch");
    assertThat(client.done("changes", "effects", joining.path("id").asString()))
        .contains(GROUP + " in mail-house: 1 made for it earlier stay as they are")
        .contains("meeting Change of watch");
    client.done("changes", "release", joining.path("id").asString());
    client.settle();
    var id = lists.person("Holm");
    var grant = client.json("people", "show", id).at("/grants/0/id").asString();
    client.done("people", "end-grant", id, grant, "--release");

    assertThat(client.done("groups", "earlier-items", GROUP))
        .contains("2 differ from who is in the group")
        .contains("meeting Change of watch lacks Robert Marwick")
        .contains("meeting Change of watch still names Ida Holm");
    assertThat(client.done("groups", "earlier-items", GROUP, "--catch-up"))
        .containsPattern("mail-house +catch up +2 +2 proposed");
    assertThat(stage.mailHouse().gatherings().named("Change of watch"))
        .as("nothing goes without a release")
        .containsExactly(account("ida.holm"));

    client.done("groups", "earlier-items", GROUP, "--catch-up", "--release");
    client.settle();
    assertThat(stage.mailHouse().gatherings().named("Change of watch"))
        .containsExactly(account("robert.marwick"));
    assertThat(client.done("groups", "earlier-items", GROUP))
        .contains("all that was made earlier follows");
    assertThat(client.run("groups", "earlier-items", GROUP, "--catch-up").err())
        .contains("Nothing that was made for bridge-watch earlier differs");
    assertThat(client.done("journal", "list")).contains("mail-house: catch-up");
  }
}
