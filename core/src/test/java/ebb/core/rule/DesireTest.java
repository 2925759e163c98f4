package ebb.core.rule;

import static ebb.core.person.People.LONG_AGO;
import static ebb.core.person.People.asserted;
import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ebb.core.Chance;
import ebb.core.application.Level;
import ebb.core.application.Value;
import ebb.core.person.Assertions;
import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class DesireTest {
  private static final ZoneId UTC = ZoneId.of("UTC");
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final Facts NOBODY = _ -> Optional.empty();

  @Test
  public void theSameInputsInAnyOrderGiveTheSame() {
    var random = Chance.random(20270301);
    int holding = 0;
    for (int run = 0; run < 300; run++) {
      var rules = someRules(random);
      var assertions = someAssertions(random);
      var grants = someGrants(random);
      var manager = person(99, Map.of("displayName", "Head"));
      Facts facts = id -> id.value() == 99 ? Optional.of(manager) : Optional.empty();

      var first = desired(rules, assertions, grants, facts);
      holding += first.accounts().isEmpty() ? 0 : 1;
      for (int shuffle = 0; shuffle < 5; shuffle++) {
        Collections.shuffle(rules, random);
        Collections.shuffle(assertions, random);
        Collections.shuffle(grants, random);
        assertThat(desired(rules, assertions, grants, facts)).as("run %d", run).isEqualTo(first);
      }
    }
    assertThat(holding).as("runs in which anything is desired").isGreaterThan(100);
  }

  @Test
  public void nothingChangesBetweenTwoTurningPoints() {
    var random = Chance.random(5);
    int compared = 0;
    for (int run = 0; run < 200; run++) {
      var desire = new Desire(someRules(random), new Expressions(), UTC);
      var subject = subject(someAssertions(random), someGrants(random));
      var points = new ArrayList<>(desire.turningPoints(subject));
      for (int i = 0; i + 1 < points.size(); i++) {
        assertThat(desire.of(subject, NOBODY, points.get(i)))
            .as("run %d", run)
            .isEqualTo(desire.of(subject, NOBODY, points.get(i + 1).minusMillis(1)));
        compared++;
      }
    }
    assertThat(compared).as("spans between turning points").isGreaterThan(200);
  }

  @Test
  public void losingEntitlementIsSaidByAbsenceAndNeverAsADeletion() {
    var rule = rule("mail", "mail-house", "person.userType != 'contractor'");

    var contractor =
        desire(rule).of(subject(Map.of("userType", "contractor")), NOBODY, NOW).accounts();
    var departed =
        desire(rule)
            .of(subject(Map.of("userType", "employee", "endDate", "2027-02-01")), NOBODY, NOW)
            .accounts();

    assertThat(contractor).isEmpty();
    assertThat(departed.get("mail-house").level()).isEqualTo(Level.SUSPENDED);
    assertThat(departed.get("mail-house").values()).isEmpty();
  }

  @Test
  public void preparesAnAccountWithinTheLeadAndOpensItOnTheDay() {
    var rule = rule("mail", "mail-house", "true");
    var subject = subject(Map.of("startDate", "2027-03-20"));

    assertThat(at(rule, subject, "2027-03-05T12:00:00Z")).isEmpty();
    assertThat(at(rule, subject, "2027-03-06T00:00:00Z").get("mail-house").level())
        .isEqualTo(Level.PREPARED);
    assertThat(at(rule, subject, "2027-03-20T00:00:00Z").get("mail-house").level())
        .isEqualTo(Level.ACTIVE);
  }

  @Test
  public void givesFromADayOnAndUpToADayCountedFromDatesOfThePerson() {
    var rule =
        within(
            rule("safety", "harbour", "true"),
            new Bound("startDate", null, 2),
            new Bound("startDate", null, 4));
    var subject = subject(Map.of("startDate", "2027-03-20", "timezone", "Pacific/Auckland"));

    assertThat(at(rule, subject, "2027-03-21T10:59:59Z")).as("the day before, there").isEmpty();
    assertThat(at(rule, subject, "2027-03-21T11:00:00Z")).containsKey("harbour");
    assertThat(at(rule, subject, "2027-03-24T10:59:59Z")).as("the last day").containsKey("harbour");
    assertThat(at(rule, subject, "2027-03-24T11:00:00Z")).isEmpty();
    assertThat(desire(rule).turningPoints(subject))
        .contains(Instant.parse("2027-03-21T11:00:00Z"), Instant.parse("2027-03-24T11:00:00Z"));
  }

  @Test
  public void whoLacksADateIsGivenNothingFromItAndHasNoEndByIt() {
    var from = within(rule("a", "harbour", "true"), new Bound("awayFrom", null, 0), null);
    var until = within(rule("b", "yard", "true"), null, new Bound("endDate", null, 30));
    var anybody = subject(Map.of("title", "Mate"));

    assertThat(at(from, anybody, "2027-03-20T00:00:00Z")).isEmpty();
    assertThat(at(until, anybody, "2037-03-20T00:00:00Z")).containsKey("yard");
  }

  @Test
  public void theFirstSeatWhoseConditionHoldsIsTaken() {
    var rule = rule("mail", "mail-house", "true");
    var choosing =
        new Rule(
            "mail",
            "mail-house",
            "true",
            null,
            null,
            null,
            List.of(
                new SeatChoice("full", "person.location in ['Skerrow', 'Holm']"),
                new SeatChoice("light", "person.location == 'Vane'")),
            rule.leadDays(),
            null,
            null,
            null);

    assertThat(seats(choosing, "Holm")).containsExactly("full");
    assertThat(seats(choosing, "Vane")).containsExactly("light");
    assertThat(seats(choosing, "Far Sound")).isEmpty();
  }

  private static Set<String> seats(Rule rule, String location) {
    return at(rule, subject(Map.of("location", location)), "2027-03-20T00:00:00Z")
        .get("mail-house")
        .seats()
        .keySet();
  }

  @Test
  public void whatCannotBeComputedForSomebodyLeavesTheirAccountThereAlone() {
    var divided = rule("a", "harbour", "10 / int(person.employeeNumber) > 1");
    var given = rule("b", "harbour", "true");
    var desire = new Desire(List.of(divided, given), new Expressions(), UTC);

    var nought = desire.of(subject(Map.of("employeeNumber", "0")), NOBODY, NOW);
    var four = desire.of(subject(Map.of("employeeNumber", "4")), NOBODY, NOW);

    assertThat(nought.accounts()).isEmpty();
    assertThat(nought.leftAlone()).containsExactly("harbour");
    assertThat(nought.unclear())
        .singleElement()
        .satisfies(
            unclear -> {
              assertThat(unclear.rule()).isEqualTo("a");
              assertThat(unclear.field()).isEqualTo("condition");
              assertThat(unclear.why()).contains("/ by zero");
            });
    assertThat(four.accounts().get("harbour").ground()).isEqualTo("a");
    assertThat(four.unclear()).isEmpty();
  }

  @Test
  public void aValueThatCannotBeComputedIsLeftAsItIsAndTheRestIsFilled() {
    var rule =
        rule(
            "a",
            "harbour",
            "true",
            Map.of("title", "person.title", "deck", "string(10 / int(person.employeeNumber))"));

    var found =
        desire(rule).of(subject(Map.of("title", "Mate", "employeeNumber", "0")), NOBODY, NOW);

    assertThat(found.accounts().get("harbour").values()).containsOnlyKeys("title");
    assertThat(found.leftAlone()).isEmpty();
    assertThat(found.unclear()).extracting(Unclear::field).containsExactly("deck");
  }

  @Test
  public void anEmergencyStopReachesEvenWhatIsUnclear() {
    var rule = rule("a", "harbour", "10 / int(person.employeeNumber) > 1");
    var stopped =
        new Subject(
            person(1, Map.of("employeeNumber", "0")), "ida", List.of(), List.of(), List.of(), true);

    var found = desire(rule).of(stopped, NOBODY, NOW);

    assertThat(found.accounts().get("harbour").isStopped()).isTrue();
    assertThat(found.leftAlone()).isEmpty();
  }

  @DataProvider
  public Object[][] functions() {
    return new Object[][] {
      {"fold(person.name.familyName)", "sorensen-oye"},
      {"initials(person.name.givenName)", "AB"},
      {"pad(person.employeeNumber, 6)", "000417"},
      {"pad(person.employeeNumber, 2)", "417"},
      {"person.name.givenName.upperAscii()", "ANNA-BRITT"},
      {"fold(person.name.familyName) + '.' + initials(person.name.givenName)", "sorensen-oye.AB"},
    };
  }

  @Test(dataProvider = "functions")
  public void mappingsMayFoldTakeInitialsAndPad(String mapping, String expected) {
    var subject =
        subject(
            Map.of(
                "name.givenName", "Anna-Britt",
                "name.familyName", "Sørensen Øye",
                "employeeNumber", "417"));

    var values =
        desire(rule("a", "harbour", "true", Map.of("out", mapping)))
            .of(subject, NOBODY, NOW)
            .accounts()
            .get("harbour")
            .values();

    assertThat(values.get("out").value()).isEqualTo(Value.of(expected));
  }

  private static Rule within(Rule rule, Bound from, Bound until) {
    return new Rule(
        rule.name(),
        rule.application(),
        rule.condition(),
        rule.values(),
        rule.references(),
        rule.groups(),
        rule.seats(),
        0,
        from,
        until,
        null);
  }

  @Test
  public void aMissingAttributeLeavesAValueEmptyAndAConditionFalse() {
    var filled = rule("a", "mail-house", "true", Map.of("title", "person.title"));
    var conditioned = rule("b", "directory", "person.title == 'Mate'");

    var desired =
        new Desire(List.of(filled, conditioned), new Expressions(), UTC)
            .of(subject(Map.of("department", "Deck")), NOBODY, NOW)
            .accounts();

    assertThat(desired.get("mail-house").values().get("title").value()).isEqualTo(Value.NOTHING);
    assertThat(desired).doesNotContainKey("directory");
  }

  @Test
  public void everyValueAndGroupNamesItsGround() {
    var rule = rule("mail", "mail-house", "true", Map.of("userName", "login"));
    var grant =
        new Grant(
            12,
            new PersonId(1),
            "mail-house",
            "editors",
            "asked",
            LocalDate.parse("2027-01-01"),
            null,
            "hand");

    var account =
        desire(rule)
            .of(
                new Subject(
                    person(1, Map.of("title", "Mate")),
                    "ida",
                    List.of(),
                    List.of(grant),
                    List.of(),
                    false),
                NOBODY,
                NOW)
            .accounts()
            .get("mail-house");

    assertThat(account.values().get("userName")).isEqualTo(new Grounded<>(Value.of("ida"), "mail"));
    assertThat(account.groups()).containsEntry("editors", "grant 12");
  }

  @Test
  public void anAccountGivenWithoutAGroupIsAsItsApplicationKeepsIt() {
    var grant =
        new Grant(
            12,
            new PersonId(1),
            "harbour",
            null,
            "found there",
            LocalDate.parse("2027-01-01"),
            null,
            "found-in-harbour");

    assertThat(given(grant, Map.of("title", "Mate")).level()).isEqualTo(Level.ACTIVE);
    assertThat(given(grant, Map.of("title", "Mate")).values()).isEmpty();
    assertThat(given(grant, Map.of("awayFrom", "2027-01-01")).level()).isEqualTo(Level.SUSPENDED);
    assertThat(given(grant, Map.of("endDate", "2027-01-01")).level()).isEqualTo(Level.SUSPENDED);
  }

  private static DesiredAccount given(Grant grant, Map<String, String> attributes) {
    return desire(rule("mail", "mail-house", "false", Map.of()))
        .of(
            new Subject(person(1, attributes), "ida", List.of(), List.of(grant), List.of(), false),
            NOBODY,
            NOW)
        .accounts()
        .get("harbour");
  }

  @Test
  public void furtherUnitsCountAsTheMainOneDoes() {
    var rule = rule("fleet", "directory", "'Ships' in units");
    var somebody = subject(Map.of("department", "Office", "furtherUnits", "Yard ; Engine;Yard"));
    var facts =
        new Facts() {
          @Override
          public Optional<Person> person(PersonId id) {
            return Optional.empty();
          }

          @Override
          public List<String> path(String unit) {
            return unit.equals("Engine") ? List.of("Engine", "Ships") : List.of(unit);
          }
        };

    assertThat(somebody.person().units()).containsExactly("Office", "Yard", "Engine");
    assertThat(desire(rule).of(somebody, facts, NOW).accounts()).containsKey("directory");
    assertThat(desire(rule).of(somebody, NOBODY, NOW).accounts()).isEmpty();
  }

  @Test
  public void remembersWhomItRead() {
    var facts = new RecordedFacts(NOBODY);
    var rule = rule("dir", "directory", "true", Map.of("description", "manager.displayName"));

    desire(rule).of(subject(Map.of("manager", "99")), facts, NOW);

    assertThat(facts.read()).containsExactly(new PersonId(99));
  }

  @Test
  public void saysWhatIsWrongWithAnExpression() {
    assertThatThrownBy(() -> new Expressions().check("person.title ==", Where.field("condition")))
        .isInstanceOfSatisfying(
            Refusal.class,
            refusal -> {
              assertThat(refusal.problems().getFirst().code()).isEqualTo("expression-invalid");
              assertThat(refusal.problems().getFirst().where().column()).isEqualTo("condition");
            });
  }

  @Test
  public void anEmergencyStopOutranksEveryRule() {
    var rule = rule("mail", "mail-house", "true", Map.of("userName", "login"));
    var present = person(1, Map.of("title", "Mate", "startDate", "2026-01-01"));

    var account =
        desire(rule)
            .of(new Subject(present, "ida", List.of(), List.of(), List.of(), true), NOBODY, NOW)
            .accounts()
            .get("mail-house");

    assertThat(account.level()).isEqualTo(Level.SUSPENDED);
    assertThat(account.ground()).isEqualTo(DesiredAccount.EMERGENCY_STOP);
    assertThat(account.values()).as("it keeps what it holds").isEmpty();
  }

  @Test
  public void aSuspensionKeepsSomebodyOutOnItsDaysAndOfWhatItCovers() {
    var mail = rule("mail", "mail-house", "true", Map.of("userName", "login"));
    var staff = rule("staff", "directory", "true", Map.of("userName", "login"));
    var suspended = suspended(Set.of("mail-house"));
    var desire = new Desire(List.of(mail, staff), new Expressions(), UTC);

    assertThat(levels(desire, suspended, "2026-11-30T23:59:59Z"))
        .containsEntry("mail-house", Level.ACTIVE);
    assertThat(levels(desire, suspended, "2026-12-01T00:00:00Z"))
        .containsEntry("mail-house", Level.SUSPENDED)
        .containsEntry("directory", Level.ACTIVE);
    assertThat(levels(desire, suspended, "2026-12-10T23:59:59Z"))
        .as("its last day is included")
        .containsEntry("mail-house", Level.SUSPENDED);
    assertThat(levels(desire, suspended, "2026-12-11T00:00:00Z"))
        .containsEntry("mail-house", Level.ACTIVE);
    assertThat(desire.turningPoints(suspended))
        .contains(Instant.parse("2026-12-01T00:00:00Z"), Instant.parse("2026-12-11T00:00:00Z"));
  }

  @Test
  public void whatCannotBeComputedIsNoWayPastASuspension() {
    var rule =
        rule(
            "mail",
            "mail-house",
            "1 / int(person.employeeNumber) == 1",
            Map.of("userName", "login"));
    var account =
        desire(rule)
            .of(suspended(Set.of()), NOBODY, Instant.parse("2026-12-05T00:00:00Z"))
            .accounts()
            .get("mail-house");

    assertThat(account.level()).isEqualTo(Level.SUSPENDED);
    assertThat(account.ground()).isEqualTo("suspension 7");
  }

  private static Subject suspended(Set<String> applications) {
    var person = person(1, Map.of("employeeNumber", "0", "startDate", "2026-01-01"));
    var suspension =
        new Suspension(
            7,
            person.id(),
            Suspension.Reason.SEASON,
            null,
            LocalDate.of(2026, 12, 1),
            LocalDate.of(2026, 12, 10),
            applications,
            null,
            false,
            false,
            "ines");
    return new Subject(person, "ida", List.of(), List.of(), List.of(suspension), false);
  }

  private static Map<String, Level> levels(Desire desire, Subject subject, String instant) {
    var levels = new TreeMap<String, Level>();
    desire
        .of(subject, NOBODY, Instant.parse(instant))
        .accounts()
        .forEach((application, account) -> levels.put(application, account.level()));
    return levels;
  }

  private static Map<String, DesiredAccount> at(Rule rule, Subject subject, String instant) {
    return desire(rule).of(subject, NOBODY, Instant.parse(instant)).accounts();
  }

  private static Desired desired(
      List<Rule> rules, List<Assertions> assertions, List<Grant> grants, Facts facts) {
    return new Desire(rules, new Expressions(), UTC).of(subject(assertions, grants), facts, NOW);
  }

  private static Desire desire(Rule rule) {
    return new Desire(List.of(rule), new Expressions(), UTC);
  }

  private static Subject subject(Map<String, String> values) {
    return new Subject(person(1, values), "ida.holm", List.of(), List.of(), List.of(), false);
  }

  private static Subject subject(List<Assertions> assertions, List<Grant> grants) {
    var person = Person.resolve(new PersonId(1), assertions, source -> source.length() % 3);
    return new Subject(person, "ida.holm", List.of("ida.lund"), grants, List.of(), false);
  }

  private static Rule rule(String name, String application, String condition) {
    return rule(name, application, condition, Map.of());
  }

  private static Rule rule(
      String name, String application, String condition, Map<String, String> values) {
    return new Rule(
        name,
        application,
        condition,
        new TreeMap<>(values),
        new TreeMap<>(),
        new TreeSet<>(),
        null,
        14,
        null,
        null,
        null);
  }

  private static List<Rule> someRules(Random random) {
    var conditions =
        List.of(
            "true",
            "person.department == 'Deck'",
            "person.userType != 'contractor'",
            "manager.displayName == 'Head'");
    var rules = new ArrayList<Rule>();
    for (int i = 0; i < 4; i++) {
      rules.add(
          new Rule(
              "rule-" + i,
              random.nextBoolean() ? "directory" : "mail-house",
              conditions.get(random.nextInt(conditions.size())),
              new TreeMap<>(Map.of("title", "'t" + i + "'", "userName", "login")),
              new TreeMap<>(Map.of("manager", "manager")),
              new TreeSet<>(Set.of("group-" + random.nextInt(3))),
              List.of(
                  new SeatChoice("seat-0", "person.department == 'Deck'"),
                  new SeatChoice("seat-1", null)),
              random.nextInt(20),
              random.nextInt(3) == 0 ? new Bound("startDate", null, random.nextInt(9) - 4) : null,
              random.nextInt(3) == 0
                  ? new Bound(null, LocalDate.of(2027, 3, 1), random.nextInt(9) - 4)
                  : null,
              null));
    }
    return rules;
  }

  private static List<Assertions> someAssertions(Random random) {
    var assertions = new ArrayList<Assertions>();
    for (var source : List.of("hr", "hand", "crew", "dock")) {
      var values = new TreeMap<String, String>();
      values.put("department", random.nextBoolean() ? "Deck" : "Office");
      values.put("userType", random.nextBoolean() ? "employee" : "contractor");
      values.put("manager", random.nextBoolean() ? "99" : "98");
      if (random.nextInt(3) == 0) {
        values.put("endDate", LocalDate.of(2027, 2, 25).plusDays(random.nextInt(10)).toString());
      }
      if (random.nextInt(3) == 0) {
        values.put("startDate", LocalDate.of(2027, 2, 20).plusDays(random.nextInt(20)).toString());
      }
      assertions.add(asserted(1, source, values).with(Map.of(), LONG_AGO, 1));
    }
    return assertions;
  }

  private static List<Grant> someGrants(Random random) {
    var grants = new ArrayList<Grant>();
    for (int i = 0; i < 4; i++) {
      grants.add(
          new Grant(
              i,
              new PersonId(1),
              random.nextBoolean() ? "directory" : "mail-house",
              "group-" + random.nextInt(3),
              "asked",
              LocalDate.of(2027, 2, 25).plusDays(random.nextInt(10)),
              random.nextBoolean() ? null : LocalDate.of(2027, 3, 10),
              "hand"));
    }
    return grants;
  }
}
