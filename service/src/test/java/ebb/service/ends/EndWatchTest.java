package ebb.service.ends;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.notice.Notice;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.service.InProcess;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.notices.Notices;
import java.time.LocalDate;
import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Who answers for somebody short-lived is asked about their last day, once for each last day. */
public class EndWatchTest {
  private EndWatch watch;
  private Notices notices;
  private Database database;
  private LocalDate today;
  private int made;

  @BeforeClass
  void begin() {
    watch = InProcess.bean(EndWatch.class);
    notices = InProcess.bean(Notices.class);
    database = InProcess.bean(Database.class);
    today = InProcess.bean(BusinessClock.class).today();
  }

  private PersonId add(String kind, int daysAhead) {
    var family = "Endable" + (char) ('a' + made++);
    InProcess.released(
        "people",
        "add",
        "name.givenName=Ida",
        "name.familyName=" + family,
        "userType=" + kind,
        "endDate=" + today.plusDays(daysAhead));
    return new PersonId(
        InProcess.client()
            .json("people", "list", "--filter=name.familyName eq \"" + family + "\"")
            .at("/items/0/id")
            .asLong());
  }

  private List<Notice> warnings(PersonId person) {
    return database.read(
        session ->
            notices.list(session, person, Reach.EVERYBODY, null, 100).items().stream()
                .filter(one -> one.kind() == Notice.Kind.ENDING)
                .toList());
  }

  @Test
  public void eachLastDayIsAskedAboutOnce() {
    var guest = add("guest", 10);
    watch.look();
    watch.look();
    assertThat(warnings(guest)).hasSize(1);

    InProcess.released("people", "edit", guest.toString(), "endDate=" + today.plusDays(12));
    watch.look();
    watch.look();
    assertThat(warnings(guest)).as("another last day is asked about, too").hasSize(2);
  }

  @Test
  public void whoStaysForLongAndWhoIsEmployedAreNotAskedAbout() {
    var later = add("contractor", 40);
    var employed = add("employee", 10);
    var past = add("seasonal", -1);

    watch.look();

    assertThat(warnings(later)).as("more than the days before").isEmpty();
    assertThat(warnings(employed)).as("does not end by nature").isEmpty();
    assertThat(warnings(past)).as("it is over").isEmpty();
  }

  @Test
  public void theLastOfTheDaysBeforeAndTodayCount() {
    var first = add("contractor", 14);
    var today = add("seasonal", 0);

    watch.look();

    assertThat(warnings(first)).hasSize(1);
    assertThat(warnings(today)).hasSize(1);
  }

  @Test
  public void moreThanOneLookTakesInAreAllAskedAbout() {
    var all = java.util.stream.IntStream.range(0, 5).mapToObj(i -> add("guest", 2 + i)).toList();

    watch.look();

    assertThat(all).allSatisfy(one -> assertThat(warnings(one)).hasSize(1));
  }
}
