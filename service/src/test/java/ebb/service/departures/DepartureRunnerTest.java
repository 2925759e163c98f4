package ebb.service.departures;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.service.changes.Carrying;
import ebb.standins.Faults;
import ebb.standins.MailHouse;
import ebb.store.Database;
import ebb.store.departures.Departures;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Each account of a leaver goes from step to step, and to its end only when all gates are open. */
public class DepartureRunnerTest {
  private static final int NOTES = 3;

  /** After that nothing is waited for any more. */
  private static final int LONG = 40;

  private MailHouse house;
  private PersonId head;
  private PersonId leaver;
  private String account;

  @BeforeMethod
  void bringTwo() throws Exception {
    house = InProcess.stage().mailHouse();
    head = Joiners.join();
    leaver = Joiners.join();
    account = Joiners.account(leaver);
    for (int i = 1; i <= NOTES; i++) {
      house.items().add(account, "files", "note " + i, "text " + i, true);
    }
  }

  @AfterMethod(alwaysRun = true)
  void wellAgain() {
    house.faults().clear();
  }

  private List<String> atTheHeads() {
    return house.items().names(Joiners.account(head));
  }

  @Test
  public void whatSomebodyOwnedIsProvenToHaveArrivedLongBeforeTheirAccountGoes() throws Exception {
    Joiners.leave(leaver, head);
    assertThat(Joiners.isUsable(leaver)).isFalse();
    assertThat(Leaving.shut(leaver)).contains("stock", "handover", "waiting");

    Joiners.passDays(8);
    Leaving.goOn();
    assertThat(atTheHeads()).containsExactly("note 1", "note 2", "note 3");
    assertThat(Leaving.part(leaver).provenAt()).isNotNull();
    assertThat(Leaving.shut(leaver)).containsExactly("waiting");
    assertThat(Joiners.account(leaver)).as("waited for").isEqualTo(account);

    Joiners.passDays(LONG);
    Leaving.goOn();
    assertThat(Joiners.account(leaver)).isNull();
    assertThat(Leaving.of(leaver).path("state").asString()).isEqualTo("done");
    assertThat(Leaving.journal(leaver))
        .contains("took stock in mail-house, 3 items")
        .contains("handover of 3 items in mail-house is proven");
  }

  @Test
  public void whatCameInAfterTheProofArrivesBeforeTheAccountGoes() throws Exception {
    Joiners.leave(leaver, head);
    Joiners.passDays(8);
    Leaving.goOn();
    house.items().add(account, "files", "a late note", "text", true);

    Joiners.passDays(LONG);
    Leaving.goOn();

    assertThat(atTheHeads()).hasSize(NOTES + 1).contains("a late note");
    assertThat(Joiners.account(leaver)).isNull();
    assertThat(Leaving.journal(leaver)).contains("1 items came in since stock was taken");
  }

  @Test
  public void anItemThatIsLostOnTheWayKeepsTheAccountForAsLongAsItTakes() throws Exception {
    house.faults().order(Faults.Kind.LOSE_ONE_ITEM, "", 1);
    Joiners.leave(leaver, head);

    Joiners.passDays(LONG);
    Leaving.goOn();

    assertThat(atTheHeads()).hasSize(NOTES - 1);
    assertThat(Leaving.part(leaver).provenAt()).isNull();
    assertThat(Leaving.shut(leaver)).contains("handover");
    assertThat(Joiners.account(leaver)).isEqualTo(account);
  }

  @Test
  public void whoeverCouldNotGetAtItIsGivenNothingUntilSomebodyElseIsNamed() throws Exception {
    Joiners.leave(leaver, head);
    InProcess.released(
        "suspensions", "start", head.toString(), "--reason=inquiry", "--note=a matter");
    Carrying.out();

    Joiners.passDays(LONG);
    Leaving.goOn();
    assertThat(Leaving.part(leaver).problem().code()).isEqualTo("recipient-suspended");
    assertThat(Joiners.account(leaver)).isEqualTo(account);
    assertThat(house.items().names(account)).as("all of it is where it was").hasSize(NOTES);

    var next = Joiners.join();
    InProcess.client().done("departures", "recipient", Leaving.number(leaver), next.toString());
    Leaving.goOn();
    InProcess.client().done("departures", "retry", Leaving.number(leaver));
    Leaving.goOn();
    assertThat(house.items().names(Joiners.account(next))).hasSize(NOTES);
    assertThat(Joiners.account(leaver)).isNull();
  }

  @Test
  public void aHoldKeepsTheAccountHoweverLongAgoItsDayWas() throws Exception {
    InProcess.client().done("people", "hold", leaver.toString(), "--reason=an audit");
    Joiners.leave(leaver, head);

    Joiners.passDays(LONG);
    Leaving.goOn();

    assertThat(Leaving.shut(leaver)).contains("hold");
    assertThat(Joiners.account(leaver)).isEqualTo(account);
  }

  @Test
  public void whoeverComesBackHasTheirAccountAndNothingEndsIt() throws Exception {
    Joiners.leave(leaver, head);
    Joiners.passDays(8);
    Leaving.goOn();

    Joiners.edit(leaver, "endDate=");
    Joiners.passDays(LONG);
    Leaving.goOn();

    assertThat(Leaving.of(leaver).path("state").asString()).isEqualTo("turned-back");
    assertThat(Joiners.account(leaver)).isEqualTo(account);
    assertThat(Joiners.isUsable(leaver)).isTrue();
  }

  @Test
  public void aStepThatACrashBrokeOffIsTakenUpWhenItsLeaseIsOver() throws Exception {
    Joiners.leave(leaver, head);
    Joiners.passDays(8);
    var database = InProcess.bean(Database.class);
    var departures = InProcess.bean(Departures.class);
    database.writeAll(departures::lookSoon);
    var now = Instant.now();
    var claimed =
        database.write(
            session -> departures.claim(session, now, now.plus(Duration.ofMinutes(2)), 1_000));
    assertThat(claimed).anyMatch(part -> part.id() == Leaving.part(leaver).id());

    InProcess.bean(DepartureRunner.class).look();
    assertThat(Leaving.part(leaver).sheet()).as("somebody else is at it").isNull();

    database.writeAll(departures::endLeases);
    Leaving.goOn();
    assertThat(Leaving.part(leaver).provenAt()).isNotNull();
  }

  @Test
  public void twoWhoLookAtOnceTakeNoStepTwice() throws Exception {
    Joiners.leave(leaver, head);
    Joiners.passDays(8);
    var runner = InProcess.bean(DepartureRunner.class);
    InProcess.bean(Database.class).writeAll(InProcess.bean(Departures.class)::lookSoon);
    var looks = new ArrayList<Callable<Void>>();
    for (int i = 0; i < 20; i++) {
      looks.add(
          () -> {
            runner.look();
            return null;
          });
    }
    try (var threads = Executors.newFixedThreadPool(4)) {
      for (var done : threads.invokeAll(looks)) {
        done.get();
      }
    }
    Leaving.goOn();

    assertThat(atTheHeads()).hasSize(NOTES);
    assertThat(Leaving.journal(leaver)).containsOnlyOnce("took stock in mail-house");
  }
}
