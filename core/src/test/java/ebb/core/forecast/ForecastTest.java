package ebb.core.forecast;

import static ebb.core.person.People.person;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.application.Capabilities;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Part;
import ebb.core.change.ChangeKind;
import ebb.core.change.Step;
import ebb.core.compare.Compare;
import ebb.core.compare.HeldAccount;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.core.rule.Bound;
import ebb.core.rule.Desire;
import ebb.core.rule.Expressions;
import ebb.core.rule.Facts;
import ebb.core.rule.Rule;
import ebb.core.rule.SeatChoice;
import ebb.core.rule.Subject;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.testng.annotations.Test;

public class ForecastTest {
  private static final ZoneId UTC = ZoneId.of("UTC");
  private static final Facts NOBODY = _ -> Optional.empty();
  private static final Instant NOW = Instant.parse("2027-03-01T12:00:00Z");
  private static final Capabilities ALL =
      Capabilities.UNKNOWN.with(Set.of(Part.GROUPS, Part.SEATS));

  @Test
  public void saysWhatASeasonWillBring() {
    var rules =
        List.of(
            rule("crew", "harbour", null, null, List.of("crew")),
            rule(
                "safety",
                "harbour",
                new Bound("startDate", null, 0),
                new Bound("startDate", null, 9),
                List.of("safety")));
    var subject = subject(Map.of("startDate", "2027-03-20", "endDate", "2027-04-30"));

    assertThat(told(rules, subject))
        .containsExactly(
            "2027-03-06 create, prepared",
            "2027-03-06 join crew",
            "2027-03-20 open",
            "2027-03-20 join safety",
            "2027-03-30 leave safety",
            "2027-05-01 suspend");
  }

  /** What is foretold of a day is what is then found to be done, if all before it was done. */
  @Test
  public void whatIsForetoldIsWhatThenHappens() {
    var random = Chance.random(20270301);
    int steps = 0;
    for (int run = 0; run < 500; run++) {
      var rules = someRules(random);
      var subject = subject(someDates(random), someSuspensions(random));
      var existing = random.nextBoolean() ? List.of(found()) : List.<HeldAccount>of();

      var foretold = forecast(rules, subject, existing);

      assertThat(foretold).as("run %d", run).isEqualTo(lived(rules, subject, existing));
      steps += foretold.size();
    }
    assertThat(steps).as("steps foretold").isGreaterThan(500);
  }

  /** Whatever else happens meanwhile: what was given waits, and what is lost goes by its gates. */
  @Test
  public void aSuspensionSwitchesOffAndTakesNothing() {
    var random = Chance.random(20270302);
    int inForce = 0;
    for (int run = 0; run < 500; run++) {
      var suspensions = someSuspensions(random);
      var subject = subject(someDates(random), suspensions);

      var lived = lived(someRules(random), subject, List.of(found()));
      inForce += lived.stream().anyMatch(coming -> isSuspended(coming.at(), suspensions)) ? 1 : 0;
      assertThat(lived)
          .as("run %d", run)
          .filteredOn(coming -> isSuspended(coming.at(), suspensions))
          .extracting(coming -> coming.step().kind())
          .isSubsetOf(ChangeKind.SUSPEND, ChangeKind.CLOSE);
    }
    assertThat(inForce).as("runs in which something happens to the suspended").isGreaterThan(30);
  }

  private static boolean isSuspended(Instant at, List<Suspension> suspensions) {
    return suspensions.stream().anyMatch(one -> one.isInForceOn(LocalDate.ofInstant(at, UTC)));
  }

  private static List<Suspension> someSuspensions(Random random) {
    return IntStream.range(0, random.nextInt(3))
        .mapToObj(
            number -> {
              var from = LocalDate.parse("2027-02-01").plusDays(random.nextInt(200));
              return new Suspension(
                  number,
                  new PersonId(1),
                  Suspension.Reason.SEASON,
                  null,
                  from,
                  random.nextInt(4) == 0 ? null : from.plusDays(random.nextInt(90)),
                  Set.of(),
                  null,
                  false,
                  false,
                  "ines");
            })
        .toList();
  }

  /** Day by day, not knowing which days matter, with an application that does what it is told. */
  private static List<Coming> lived(List<Rule> rules, Subject subject, List<HeldAccount> existing) {
    var desire = new Desire(rules, new Expressions(), UTC);
    var application = new Obedient(existing);
    application.settle(desire, subject, NOW);
    var lived = new ArrayList<Coming>();
    for (var day = LocalDate.parse("2027-03-02"); day.getYear() < 2028; day = day.plusDays(1)) {
      lived.addAll(application.settle(desire, subject, day.atStartOfDay(UTC).toInstant()));
    }
    return lived;
  }

  /** Carries out each step by what it says, and by nothing else. */
  private static final class Obedient {
    private final Map<String, HeldAccount> held = new HashMap<>();

    Obedient(List<HeldAccount> existing) {
      existing.forEach(account -> held.put(account.application(), account));
    }

    List<Coming> settle(Desire desire, Subject subject, Instant at) {
      var desired = desire.of(subject, NOBODY, at);
      var names = new TreeSet<>(desired.accounts().keySet());
      names.addAll(held.keySet());
      // Whoever is entitled again is not being closed any more.
      desired
          .accounts()
          .keySet()
          .forEach(name -> held.computeIfPresent(name, (_, one) -> at(one, one.level(), false)));
      var steps = new ArrayList<Coming>();
      for (var name : names) {
        new Compare(ALL, _ -> new Compare.Reference.None())
                .differences(
                    Optional.ofNullable(desired.accounts().get(name)),
                    Optional.ofNullable(held.get(name)))
                .stream()
                .map(Step::removing)
                .forEach(step -> steps.add(new Coming(at, name, step)));
      }
      steps.forEach(coming -> held.put(coming.application(), done(coming)));
      return steps;
    }

    private HeldAccount done(Coming coming) {
      var step = coming.step();
      var before = held.get(coming.application());
      return switch (step.kind()) {
        case CREATE ->
            account(
                coming.application(),
                step.usable() ? Level.ACTIVE : Level.PREPARED,
                texts(step, Map.of()),
                Map.of(),
                false);
        case UPDATE ->
            account(
                coming.application(),
                before.level(),
                texts(step, before.observed().values()),
                before.grounds(),
                before.closing());
        case OPEN, RETURN -> at(before, Level.ACTIVE, false);
        case SUSPEND -> at(before, Level.SUSPENDED, before.closing());
        case CLOSE -> at(before, Level.SUSPENDED, true);
        case JOIN -> in(before, step.group(), step.ground());
        case LEAVE -> out(before, step.group());
        case TAKE_SEAT -> in(before, HeldAccount.seat(step.group()), step.ground());
        case FREE_SEAT -> out(before, HeldAccount.seat(step.group()));
        case DELETE, STRIP, RESET, SHUT, CATCH_UP ->
            throw new IllegalStateException("No date asks for " + step);
      };
    }

    private static Map<String, List<String>> texts(Step step, Map<String, List<String>> before) {
      var texts = new TreeMap<>(before);
      step.edits().forEach((attribute, edit) -> texts.put(attribute, edit.after().texts()));
      return texts;
    }

    private static HeldAccount at(HeldAccount before, Level level, boolean closing) {
      return account(
          before.application(), level, before.observed().values(), before.grounds(), closing);
    }

    private static HeldAccount in(HeldAccount before, String what, String ground) {
      var grounds = new TreeMap<>(before.grounds());
      grounds.put(what, ground);
      return account(
          before.application(),
          before.level(),
          before.observed().values(),
          grounds,
          before.closing());
    }

    private static HeldAccount out(HeldAccount before, String what) {
      var grounds = new TreeMap<>(before.grounds());
      grounds.remove(what);
      return account(
          before.application(),
          before.level(),
          before.observed().values(),
          grounds,
          before.closing());
    }
  }

  private static HeldAccount found() {
    return account("harbour", Level.ACTIVE, Map.of("title", List.of("Mate")), Map.of(), false);
  }

  private static HeldAccount account(
      String application,
      Level level,
      Map<String, List<String>> values,
      Map<String, String> grounds,
      boolean closing) {
    var groups = new TreeSet<String>();
    var seats = new TreeSet<String>();
    for (var ground : grounds.keySet()) {
      if (ground.startsWith("seat:")) {
        seats.add(ground.substring(5));
      } else {
        groups.add(ground);
      }
    }
    return new HeldAccount(
        1,
        application,
        level,
        new ObservedAccount("1", null, level == Level.ACTIVE, new TreeMap<>(values), groups, seats),
        new TreeMap<>(grounds),
        closing,
        false,
        false);
  }

  private static List<Coming> forecast(
      List<Rule> rules, Subject subject, List<HeldAccount> existing) {
    var desire = new Desire(rules, new Expressions(), UTC);
    var course = new ArrayList<Moment>();
    var instants = new TreeSet<>(desire.turningPoints(subject).tailSet(NOW));
    instants.add(NOW);
    for (var at : instants) {
      course.add(new Moment(at, subject.person().stage(at, UTC), desire.of(subject, NOBODY, at)));
    }
    return Forecast.of(course, existing, _ -> ALL);
  }

  private static List<String> told(List<Rule> rules, Subject subject) {
    return forecast(rules, subject, List.of()).stream()
        .filter(coming -> coming.step().kind() != ChangeKind.TAKE_SEAT)
        .filter(coming -> coming.step().kind() != ChangeKind.FREE_SEAT)
        .map(
            coming ->
                coming.at().toString().substring(0, 10)
                    + " "
                    + coming.step().kind().word()
                    + (coming.step().kind() == ChangeKind.CREATE ? ", prepared" : "")
                    + (coming.step().group() == null ? "" : " " + coming.step().group()))
        .toList();
  }

  private static Subject subject(Map<String, String> values, List<Suspension> suspensions) {
    return new Subject(person(1, values), "ida", List.of(), List.of(), suspensions, false);
  }

  private static Subject subject(Map<String, String> values) {
    return new Subject(person(1, values), "ida", List.of(), List.of(), List.of(), false);
  }

  private static Rule rule(
      String name, String application, Bound from, Bound until, List<String> groups) {
    return new Rule(
        name,
        application,
        "true",
        new TreeMap<>(Map.of("title", "'" + name + "'")),
        null,
        new TreeSet<>(groups),
        List.of(new SeatChoice("seat of " + name, null)),
        14,
        from,
        until,
        null);
  }

  private static List<Rule> someRules(Random random) {
    return random
        .ints(1 + random.nextInt(4), 0, 1000)
        .mapToObj(
            i ->
                rule(
                    "rule-" + i,
                    random.nextBoolean() ? "harbour" : "yard",
                    someBound(random),
                    someBound(random),
                    List.of("group-" + random.nextInt(3))))
        .collect(Collectors.toList());
  }

  private static Bound someBound(Random random) {
    return switch (random.nextInt(4)) {
      case 0 -> new Bound("startDate", null, random.nextInt(40) - 10);
      case 1 -> new Bound("endDate", null, random.nextInt(40) - 20);
      case 2 -> new Bound(null, LocalDate.of(2027, 3, 10), random.nextInt(100));
      default -> null;
    };
  }

  private static Map<String, String> someDates(Random random) {
    var dates = new TreeMap<>(Map.of("title", "Mate"));
    for (var attribute : List.of("startDate", "endDate", "awayFrom", "awayUntil")) {
      if (random.nextInt(3) > 0) {
        dates.put(attribute, LocalDate.of(2027, 2, 20).plusDays(random.nextInt(200)).toString());
      }
    }
    return dates;
  }
}
