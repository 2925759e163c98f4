package ebb.service.dormancy;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.service.changes.Carrying;
import ebb.service.time.BusinessClock;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Owners are asked whether they still need an account; what nobody needs is switched off there. */
public class StillNeededTest {
  private static final int DAYS = 14;

  private static String account(PersonId person) {
    return InProcess.client()
        .json("people", "show", person.toString())
        .path("accounts")
        .valueStream()
        .filter(one -> one.path("application").asString().equals("mail-house"))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asString();
  }

  private static JsonNode ask(PersonId person) {
    return InProcess.client()
        .json(
            "dormant",
            "ask",
            "mail-house",
            account(person),
            "--until=" + Joiners.today().plusDays(DAYS));
  }

  private static void settle() throws InterruptedException {
    InProcess.bean(StillNeededWatch.class).look();
    Carrying.out();
  }

  @Test
  public void whatNobodyAnswersForIsSwitchedOffThereOnTheDayAfterAndNotBefore() throws Exception {
    var person = Joiners.join();
    assertThat(ask(person).path("asked").asInt()).isEqualTo(1);

    Joiners.passDays(DAYS);
    settle();
    assertThat(Joiners.isUsable(person)).as("the last day is theirs").isTrue();
    Joiners.passDays(1);
    settle();

    assertThat(Joiners.isUsable(person)).isFalse();
    assertThat(
            InProcess.stage()
                .directory()
                .person(Joiners.login(person))
                .getAttributeValue("loginAllowed"))
        .as("there, and nowhere else")
        .isEqualTo("TRUE");
    assertThat(InProcess.client().json("suspensions", "list").path("items"))
        .filteredOn(one -> one.path("person").asLong() == person.value())
        .singleElement()
        .asString()
        .contains("did not answer by");
  }

  @Test
  public void whoeverSignsInMeanwhileHasAnswered() throws Exception {
    var person = Joiners.join();
    ask(person);
    InProcess.stage()
        .mailHouse()
        .use()
        .signIn(Joiners.account(person), InProcess.bean(BusinessClock.class).instant());
    UseWatchTest.askedAll();

    Joiners.passDays(DAYS + 1);
    settle();

    assertThat(Joiners.isUsable(person)).isTrue();
  }

  @Test
  public void whatIsOffAlreadyIsNotSwitchedOffOnceMore() throws Exception {
    var person = Joiners.join();
    ask(person);
    InProcess.released(
        "suspensions", "start", person.toString(), "--reason=leave", "--note=a trial");
    Carrying.out();

    Joiners.passDays(DAYS + 1);
    settle();

    assertThat(InProcess.client().json("suspensions", "list").path("items"))
        .filteredOn(one -> one.path("person").asLong() == person.value())
        .as("the one that was there")
        .hasSize(1);
  }

  @Test
  public void nobodyIsAskedWhoseAccountStaysAnyway() throws Exception {
    var technical = Joiners.join();
    Joiners.edit(technical, "userType=technical");

    var said = ask(technical);

    assertThat(said.path("asked").asInt()).isZero();
    assertThat(said.at("/notAsked/0/why").asString()).isEqualTo("a technical identity");
  }

  @Test
  public void aDayOnWhichNobodyCanAnswerIsRefused() throws Exception {
    var person = Joiners.join();
    for (var day : new String[] {"0", "91"}) {
      var until = Joiners.today().plusDays(Long.parseLong(day));
      var said =
          InProcess.client()
              .run("dormant", "ask", "mail-house", account(person), "--until=" + until);
      assertThat(said.exitCode()).isNotZero();
      assertThat(said.err()).contains("is no day by which they can answer");
    }
  }
}
