package ebb.service.departures;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.notice.Notice;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.store.Database;
import ebb.store.notices.Notices;
import java.time.Instant;
import java.util.List;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/**
 * Who left is forgotten after the days their procedure says, unless something speaks against it.
 */
public class ForgetterTest {
  private static final int UNTIL_GONE = 40;
  private static final int DAYS = 30;

  private PersonId head;

  @BeforeMethod
  void sayAfterHowManyDays() throws Exception {
    head = Joiners.join();
    procedure("--forget=" + DAYS);
  }

  @AfterMethod(alwaysRun = true)
  void keepForEver() {
    procedure("--drop");
  }

  private static void procedure(String how) {
    InProcess.client().done("departures", "procedures", "employee", how);
  }

  private PersonId gone() throws Exception {
    var leaver = Joiners.join("title=Mate", "phoneNumbers.mobile=+99 555 1");
    Joiners.leave(leaver, head);
    Leaving.goOn();
    Joiners.passDays(UNTIL_GONE);
    Leaving.goOn();
    assertThat(Leaving.of(leaver).path("state").asString()).isEqualTo("done");
    return leaver;
  }

  private static String name(PersonId person) {
    return InProcess.client()
        .json("people", "show", person.toString())
        .path("displayName")
        .asString();
  }

  @Test
  public void theDayBeforeAllIsKnownAndOnTheDayNothing() throws Exception {
    var leaver = gone();
    var name = name(leaver);

    Joiners.passDays(DAYS - 1);
    assertThat(name(leaver)).isEqualTo(name).startsWith("Ida ");
    Joiners.passDays(1);

    assertThat(name(leaver)).isEqualTo("Forgotten");
    assertThat(InProcess.client().done("people", "show", leaver.toString()))
        .doesNotContain("+99 555 1")
        .doesNotContain(name.substring(name.indexOf(' ') + 1));
    assertThat(Leaving.journal(leaver)).contains("forgot what was known of them");
    assertThat(InProcess.client().done("journal", "verify")).contains("whole");
  }

  @Test
  public void aLetterThatStillWaitsForThemGoesWithThem() throws Exception {
    var leaver = gone();
    var database = InProcess.bean(Database.class);
    var notices = InProcess.bean(Notices.class);
    database.writeAll(
        session ->
            notices.add(
                session,
                leaver,
                Notice.Kind.DONE,
                "ida@post.example",
                "A letter",
                "/who",
                Instant.now()));
    Joiners.passDays(DAYS);

    assertThat(name(leaver)).isEqualTo("Forgotten");
    List<Notice> theirs =
        database.read(session -> notices.list(session, leaver, Reach.EVERYBODY, null, 100).items());
    assertThat(theirs).noneMatch(one -> one.state() != Notice.State.SENT);
  }

  @Test
  public void lookingTwiceForgetsOnce() throws Exception {
    var leaver = gone();
    Joiners.passDays(DAYS);

    InProcess.bean(Forgetter.class).look();
    InProcess.bean(Forgetter.class).look();

    assertThat(Leaving.journal(leaver)).containsOnlyOnce("forgot what was known of them");
  }

  @Test
  public void whoeverIsHereAgainIsKnownFurther() throws Exception {
    var again = gone();
    Joiners.edit(again, "endDate=");

    Joiners.passDays(DAYS + 1);

    assertThat(name(again)).startsWith("Ida ");
    assertThat(Joiners.isUsable(again)).as("with an account of theirs").isTrue();
  }

  @Test
  public void whoeverSomethingIsHeldOfIsKnownUntilTheHoldIsLifted() throws Exception {
    var held = gone();
    var hold =
        InProcess.client()
            .json("people", "hold", held.toString(), "--reason=a claim for damages")
            .path("id")
            .asString();

    Joiners.passDays(DAYS + 1);
    assertThat(name(held)).startsWith("Ida ");
    assertThat(InProcess.client().done("departures", "show", Leaving.number(held)))
        .contains("a claim for damages");

    InProcess.client().done("people", "lift", held.toString(), hold);
    InProcess.bean(Forgetter.class).look();
    assertThat(name(held)).isEqualTo("Forgotten");
  }

  @Test
  public void aProcedureThatIsDroppedMeanwhileForgetsNobody() throws Exception {
    var leaver = gone();
    procedure("--drop");

    Joiners.passDays(DAYS + 1);

    assertThat(name(leaver)).startsWith("Ida ");
  }
}
