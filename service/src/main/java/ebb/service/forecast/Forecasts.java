package ebb.service.forecast;

import ebb.core.compare.HeldAccount;
import ebb.core.forecast.Coming;
import ebb.core.forecast.Forecast;
import ebb.core.operator.Reach;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.evaluation.Evaluator;
import ebb.service.evaluation.Evaluator.Course;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.people.People;
import ebb.store.people.People.Waking;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.stereotype.Component;

/**
 * Goes through those for whom something changes by itself, and through nobody else: what it costs
 * grows with the dates there are, not with people times days.
 */
@Component
final class Forecasts {
  private final Database database;
  private final Evaluator evaluator;
  private final Connections connections;
  private final People people;

  Forecasts(Database database, Evaluator evaluator, Connections connections, People people) {
    this.database = database;
    this.evaluator = evaluator;
    this.connections = connections;
    this.people = people;
  }

  /**
   * What will happen for somebody, in the order of time.
   *
   * @param waking by which they are found: the next instant at which something changes for them
   */
  record Ahead(Waking waking, Person person, List<Coming> coming) {}

  interface Each {
    /** False ends it. */
    boolean take(Ahead ahead);
  }

  /**
   * @param after the last one who was taken before; null to begin with the soonest
   */
  void each(Instant until, Reach reach, Waking after, Each each) {
    var last = after;
    while (true) {
      var part = part(until, reach, last);
      for (var ahead : part) {
        if (!each.take(ahead)) {
          return;
        }
      }
      if (part.isEmpty()) {
        return;
      }
      last = part.getLast().waking();
    }
  }

  private List<Ahead> part(Instant until, Reach reach, Waking after) {
    return database.read(
        session -> {
          var waking = people.waking(session, until, reach, after, Evaluator.PART);
          var courses = new TreeMap<PersonId, Course>();
          evaluator
              .courses(session, waking.stream().map(Forecasts::person).toList(), until)
              .forEach(course -> courses.put(course.person().id(), course));
          return waking.stream().map(one -> ahead(one, courses)).toList();
        });
  }

  private Ahead ahead(Waking waking, Map<PersonId, Course> courses) {
    var course = courses.get(person(waking));
    return new Ahead(
        waking,
        course.person(),
        Forecast.of(course.moments(), held(course), connections::capabilities));
  }

  private static List<HeldAccount> held(Course course) {
    return course.accounts().stream().map(Account::held).toList();
  }

  private static PersonId person(Waking waking) {
    return new PersonId(waking.id());
  }
}
