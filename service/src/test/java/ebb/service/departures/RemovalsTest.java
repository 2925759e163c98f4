package ebb.service.departures;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.service.changes.Carrying;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Accounts that are off: which may be removed, which not and why, and what comes of an order. */
public class RemovalsTest {
  private static final int LONG = 40;

  private static void suspend(PersonId person, String reason) throws Exception {
    InProcess.released(
        "suspensions",
        "start",
        person.toString(),
        "--reason=" + reason,
        "--note=a trial",
        "--in=mail-house");
    Carrying.out();
  }

  private static JsonNode off(PersonId person) {
    return InProcess.client()
        .json("dormant", "off", "mail-house", "--limit=1000")
        .path("items")
        .valueStream()
        .filter(one -> one.path("person").asLong() == person.value())
        .findFirst()
        .orElseThrow();
  }

  private static String against(PersonId person) {
    return off(person).path("against").asString();
  }

  @Test
  public void anAccountMayGoOnceItWasOffForAsLongAsIsSaid() throws Exception {
    var person = Joiners.join();
    suspend(person, "dormant");
    assertThat(against(person)).startsWith("It is off since ").contains("may go from");

    Joiners.passDays(LONG);

    assertThat(off(person).path("against").isNull()).isTrue();
    assertThat(off(person).path("days").asInt()).isGreaterThanOrEqualTo(LONG);
  }

  @Test
  public void whoeverIsKeptOutForATimeKeepsTheirAccount() throws Exception {
    for (var reason : new String[] {"leave", "inquiry", "season"}) {
      var person = Joiners.join();
      suspend(person, reason);
      Joiners.passDays(LONG);
      assertThat(against(person)).as(reason).doesNotContain(reason).contains("may come back");
    }
  }

  @Test
  public void aHoldAndATechnicalIdentityKeepWhatNobodyUses() throws Exception {
    var held = Joiners.join();
    suspend(held, "dormant");
    InProcess.client().done("people", "hold", held.toString(), "--reason=an audit");
    var technical = Joiners.join();
    suspend(technical, "dormant");
    Joiners.edit(technical, "userType=technical");
    Joiners.passDays(LONG);

    assertThat(against(held)).startsWith("A hold set by ").endsWith("is in force: an audit.");
    assertThat(against(technical)).isEqualTo("It belongs to a technical identity.");
  }

  @Test
  public void anOrderRemovesThatAccountAndNoOther() throws Exception {
    var person = Joiners.join();
    suspend(person, "dormant");
    Joiners.passDays(LONG);
    var id = off(person).path("account").asString();

    InProcess.client().done("dormant", "remove", "mail-house", id, "--reason=a quarter unused");
    assertThat(against(person)).matches("Departure \\d+ takes care of it\\.");
    var again = InProcess.client().run("dormant", "remove", "mail-house", id, "--reason=once more");
    assertThat(again.err() + again.out()).contains("takes care of it");
    Leaving.goOn();

    assertThat(Joiners.account(person)).isNull();
    assertThat(InProcess.stage().directory().person(Joiners.login(person))).isNotNull();
    assertThat(Leaving.of(person).path("state").asString()).isEqualTo("done");
  }

  @Test
  public void whoeverIsWantedAgainMeanwhileKeepsTheAccount() throws Exception {
    var person = Joiners.join();
    suspend(person, "dormant");
    Joiners.passDays(LONG);
    InProcess.client()
        .done(
            "dormant",
            "remove",
            "mail-house",
            off(person).path("account").asString(),
            "--reason=unused");

    InProcess.released("suspensions", "end", person.toString());
    Carrying.out();
    Leaving.goOn();

    assertThat(Joiners.isUsable(person)).isTrue();
    assertThat(Leaving.of(person).path("state").asString()).isEqualTo("turned-back");
  }
}
