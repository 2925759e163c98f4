package ebb.bench;

import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.people.People;
import ebb.store.people.PeopleFilter;
import ebb.store.people.PeopleLists;
import ebb.store.people.PeopleOrder;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import org.flywaydb.core.Flyway;
import org.h2.jdbcx.JdbcConnectionPool;

/**
 * Fifty people of many: filtered by unit, in the order of their names, from somewhere in the list,
 * and counted as far as the list counts; against the bare JDBC query on the same index.
 */
final class ListPeople {
  private static final int PER_UNIT = 5_000;
  private static final int PAGE = 50;
  private static final int COUNTED = 10_000;

  private static final int ROUNDS = 40;
  private static final String LISTED =
      """
      select id, display_name, login, department, attributes, version from person
      where department = ? and (sort_name, id) > (?, ?) order by department, sort_name, id limit 51""";
  private static final String COUNT = "select id from person where department = ? limit 10001";

  static Measured run(Path folder, Trial trial) throws Exception {
    var pool =
        JdbcConnectionPool.create(
            "jdbc:h2:file:%s;CACHE_SIZE=2000000".formatted(folder.resolve("people")), "ebb", "");
    Flyway.configure().dataSource(pool).load().migrate();
    var database = Database.open(pool, People.ENTITIES.toArray(Class<?>[]::new));
    int units = trial.n() / PER_UNIT;
    fill(database, trial.n(), units);
    var lists = new PeopleLists();
    var random = new Random(7);
    try (var connection = pool.getConnection()) {
      var took =
          trial.medians(
              "list-people",
              (_, _) -> {
                var asked = new ArrayList<String>();
                for (int k = 0; k < ROUNDS; k++) {
                  asked.add(unit(random.nextInt(units)));
                }
                return new double[] {ours(database, lists, asked), bare(connection, asked)};
              });
      return new Measured("list-people", took[0], took[1], 2, "ms", trial.n());
    } finally {
      pool.dispose();
    }
  }

  /** Each round asks for other units: H2 remembers what it was asked last. */
  private static double ours(Database database, PeopleLists lists, List<String> units) {
    var begin = System.nanoTime();
    for (var unit : units) {
      var filter = PeopleFilter.compare("department", "=", unit);
      var found =
          database.read(
              session -> {
                var page = lists.list(session, filter, PeopleOrder.NAME, null, PAGE);
                return page.items().size() + lists.count(session, filter, COUNTED);
              });
      check(found);
    }
    return (System.nanoTime() - begin) / 1e6 / units.size();
  }

  private static double bare(Connection connection, List<String> units) throws SQLException {
    var begin = System.nanoTime();
    for (var unit : units) {
      long found = 0;
      try (var list = connection.prepareStatement(LISTED);
          var count = connection.prepareStatement(COUNT)) {
        list.setString(1, unit);
        list.setString(2, "");
        list.setLong(3, 0);
        try (var rows = list.executeQuery()) {
          while (rows.next() && found < PAGE) {
            found += rows.getString(5).isEmpty() ? 0 : 1;
          }
        }
        count.setString(1, unit);
        try (var rows = count.executeQuery()) {
          while (rows.next()) {
            found++;
          }
        }
      }
      check(found);
    }
    return (System.nanoTime() - begin) / 1e6 / units.size();
  }

  private static void check(long found) {
    if (found < PAGE) {
      throw new IllegalStateException("Too few were found: " + found);
    }
  }

  private static void fill(Database database, int size, int units) {
    var people = new People();
    var random = new Random(42);
    for (int from = 0; from < size; from += 1_000) {
      int begin = from;
      database.writeAll(
          session -> {
            for (int i = begin; i < Math.min(begin + 1_000, size); i++) {
              people.keep(session, person(i + 1, random, units), "p" + i, null);
            }
          });
    }
  }

  private static Person person(long id, Random random, int units) {
    var held = new TreeMap<String, Held>();
    put(held, "name.givenName", word(random));
    put(held, "name.familyName", word(random));
    put(held, "department", unit(random.nextInt(units)));
    put(held, "userType", "employee");
    put(held, "employeeNumber", "S" + id);
    return new Person(new PersonId(id), held);
  }

  private static void put(TreeMap<String, Held> held, String name, String value) {
    held.put(name, new Held(value, "hr", Instant.EPOCH));
  }

  private static String unit(int number) {
    return "Unit %03d".formatted(number);
  }

  private static String word(Random random) {
    var letters = new StringBuilder();
    for (int i = 0; i < 8; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private ListPeople() {}
}
