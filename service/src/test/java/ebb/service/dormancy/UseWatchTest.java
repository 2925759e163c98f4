package ebb.service.dormancy;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.Joiners;
import ebb.service.time.BusinessClock;
import ebb.standins.Faults;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** When each account was last used is asked once a day, and no account is judged by a guess. */
public class UseWatchTest {
  private static final int MOST_LOOKS = 2_000;

  /** Has the mail house asked, and waits for that. */
  static void askedAll() throws InterruptedException {
    saysWhatDormantMeans();
    var watch = InProcess.bean(UseWatch.class);
    watch.again("mail-house");
    look(watch);
  }

  private static void look(UseWatch watch) throws InterruptedException {
    watch.look();
    for (int look = 0; look < MOST_LOOKS && goesOn(watch); look++) {
      Thread.sleep(5);
    }
    assertThat(goesOn(watch)).isFalse();
  }

  private static boolean goesOn(UseWatch watch) {
    return watch.running(null).get("usage readings") > 0;
  }

  private static void saysWhatDormantMeans() {
    var stage = InProcess.stage();
    var command =
        new ArrayList<>(
            List.of(
                "applications",
                "connect",
                "mail-house",
                "--kind=scim",
                "--set=address=" + stage.mailHouse().scim(),
                "--set=companion=" + stage.mailHouse().companion(),
                "--set=network=internal",
                "--set=dormantAfter=90"));
    InProcess.client().done(command.toArray(String[]::new));
  }

  @AfterMethod(alwaysRun = true)
  void wellAgain() {
    InProcess.stage().mailHouse().faults().clear();
  }

  private static Instant now() {
    return InProcess.bean(BusinessClock.class).instant();
  }

  private static PersonId used(int daysAgo) throws InterruptedException {
    var person = Joiners.join();
    InProcess.stage()
        .mailHouse()
        .use()
        .signIn(Joiners.account(person), now().minus(daysAgo, ChronoUnit.DAYS));
    return person;
  }

  private static List<JsonNode> dormant() {
    return InProcess.client()
        .json("dormant", "list", "mail-house", "--limit=1000")
        .path("items")
        .valueStream()
        .toList();
  }

  private static List<Long> people() {
    return dormant().stream().map(one -> one.path("person").asLong()).toList();
  }

  @Test
  public void thoseAreFoundWhoHaveNotSignedInForLongAndNobodyElse() throws Exception {
    var long1 = used(2_000);
    var long2 = used(3_000);
    var lately = used(1);

    askedAll();

    assertThat(people())
        .as("the longest first")
        .containsSubsequence(long2.value(), long1.value())
        .doesNotContain(lately.value());
  }

  @Test
  public void whoeverSignsInAgainIsDormantNoMore() throws Exception {
    var person = used(2_000);
    askedAll();
    assertThat(people()).contains(person.value());

    InProcess.stage().mailHouse().use().signIn(Joiners.account(person), now());
    askedAll();

    assertThat(people()).doesNotContain(person.value());
  }

  @Test
  public void anApplicationThatIsDownIsAskedAgainLaterAndNobodyIsDormantBecauseOfIt()
      throws Exception {
    var person = used(1);
    askedAll();
    var before = people();
    InProcess.stage().mailHouse().faults().order(Faults.Kind.UNAVAILABLE, "", 1_000);

    askedAll();

    assertThat(people()).isEqualTo(before).doesNotContain(person.value());
    InProcess.stage().mailHouse().faults().clear();
    look(InProcess.bean(UseWatch.class));
    assertThat(people()).as("not at once: it is left in peace for a while").isEqualTo(before);
  }
}
