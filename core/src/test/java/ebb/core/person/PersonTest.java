package ebb.core.person;

import static ebb.core.person.People.asserted;
import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class PersonTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

  @DataProvider
  Object[][] stages() {
    return new Object[][] {
      {
        "before the first day",
        Map.of("startDate", "2027-03-01"),
        "2027-02-28T22:59:59Z",
        Stage.EXPECTED
      },
      {
        "from its midnight on",
        Map.of("startDate", "2027-03-01"),
        "2027-02-28T23:00:00Z",
        Stage.PRESENT
      },
      {"on the last day", Map.of("endDate", "2027-03-01"), "2027-03-01T22:59:59Z", Stage.LEAVING},
      {
        "after the last day",
        Map.of("endDate", "2027-03-01"),
        "2027-03-01T23:00:00Z",
        Stage.DEPARTED
      },
      {
        "in the person's own zone",
        Map.of("endDate", "2027-03-01", "timezone", "Pacific/Auckland"),
        "2027-03-01T11:00:00Z",
        Stage.DEPARTED
      },
      {
        "on leave",
        Map.of("awayFrom", "2027-03-01", "awayUntil", "2027-03-10"),
        "2027-03-10T12:00:00Z",
        Stage.AWAY
      },
      {
        "back from leave",
        Map.of("awayFrom", "2027-03-01", "awayUntil", "2027-03-10"),
        "2027-03-11T12:00:00Z",
        Stage.PRESENT
      },
      {"asserted by nobody", Map.of(), "2027-03-01T12:00:00Z", Stage.DEPARTED},
    };
  }

  @Test(dataProvider = "stages")
  public void standsWhereTheDatesSay(
      String label, Map<String, String> values, String at, Stage expected) {
    assertThat(person(1, values).stage(Instant.parse(at), OSLO)).as(label).isEqualTo(expected);
  }

  @Test
  public void changesStageExactlyAtItsTurningPoints() {
    var person = person(1, Map.of("startDate", "2027-03-01", "endDate", "2027-06-30"));

    for (var point : person.turningPoints(OSLO)) {
      assertThat(person.stage(point, OSLO)).isNotEqualTo(person.stage(point.minusMillis(1), OSLO));
    }
    assertThat(person.turningPoints(OSLO)).hasSize(2);
  }

  @Test
  public void takesEachValueFromTheStrongestSource() {
    var hr = asserted(1, "hr", Map.of("title", "Mate", "department", "Deck"));
    var hand = asserted(1, "hand", Map.of("title", "Bosun"));

    for (var order : List.of(List.of(hr, hand), List.of(hand, hr))) {
      var person = Person.resolve(new PersonId(1), order, source -> source.equals("hand") ? 9 : 1);
      assertThat(person.get("title")).contains("Bosun");
      assertThat(person.attributes().get("title").source()).isEqualTo("hand");
      assertThat(person.get("department")).contains("Deck");
    }
  }
}
