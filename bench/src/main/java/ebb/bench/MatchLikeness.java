package ebb.bench;

import ebb.core.imports.Likeness;
import ebb.core.imports.Likeness.Known;
import ebb.core.person.Held;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.people.People;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.flywaydb.core.Flyway;
import org.h2.jdbcx.JdbcConnectionPool;
import org.hibernate.StatelessSession;

/**
 * Doubtful rows among many people and among a tenth of them: whom each may be, with score and
 * reasons. Names are as in life: some are borne by very many.
 */
final class MatchLikeness {
  private static final int ROWS = 1_000;
  private static final int GIVEN_NAMES = 500;
  private static final int FAMILY_NAMES = 5_000;

  /** Among whom it is looked. */
  private record Crowd(Database database, JdbcConnectionPool pool, List<Person> people) {}

  static Measured run(Path folder, Trial trial) throws Exception {
    var many = crowd(folder.resolve("many"), trial.n());
    var few = crowd(folder.resolve("few"), trial.n() / 10);
    var took =
        trial.medians(
            "match-likeness",
            (number, _) ->
                new double[] {match(many, new Random(number)), match(few, new Random(number))});
    many.pool().dispose();
    few.pool().dispose();
    return new Measured("match-likeness", took[0], took[1], 2, "ms", trial.n());
  }

  private static double match(Crowd crowd, Random random) {
    var rows = new ArrayList<Map<String, String>>();
    var whose = new ArrayList<PersonId>();
    for (int i = 0; i < ROWS; i++) {
      var person = crowd.people().get(random.nextInt(crowd.people().size()));
      rows.add(doubtful(person, random));
      whose.add(person.id());
    }
    var begin = System.nanoTime();
    var clues = rows.stream().map(Likeness::clues).toList();
    var found = crowd.database().read(session -> find(session, clues, rows, whose));
    var took = (System.nanoTime() - begin) / 1e6;
    if (found < ROWS * 0.9) {
      throw new IllegalStateException("Only %d of %d were found".formatted(found, ROWS));
    }
    return took;
  }

  private static long find(
      StatelessSession session,
      List<SortedSet<Long>> clues,
      List<Map<String, String>> rows,
      List<PersonId> whose) {
    var people = new People();
    var all = clues.stream().flatMap(SortedSet::stream).collect(Collectors.toSet());
    var having = people.byClues(session, all);
    var likeliest = clues.stream().map(of -> Likeness.likeliest(of, having)).toList();
    var ids = likeliest.stream().flatMap(List::stream).collect(Collectors.toSet());
    var known =
        people.all(session, ids).stream()
            .collect(Collectors.toMap(one -> one.person().id(), one -> one.person()));
    long found = 0;
    for (int i = 0; i < rows.size(); i++) {
      var row = rows.get(i);
      var likely =
          likeliest.get(i).stream()
              .filter(
                  id ->
                      Likeness.between(row, new Known(known.get(id), false, false, false))
                          .isPresent())
              .toList();
      found += likely.contains(whose.get(i)) ? 1 : 0;
    }
    return found;
  }

  /** Two letters of the family name exchanged, the number kept. */
  private static Map<String, String> doubtful(Person person, Random random) {
    var row = new TreeMap<String, String>();
    person.attributes().forEach((name, held) -> row.put(name, held.value()));
    var family = row.get("name.familyName");
    var at = 1 + random.nextInt(family.length() - 2);
    row.put(
        "name.familyName",
        family.substring(0, at)
            + family.charAt(at + 1)
            + family.charAt(at)
            + family.substring(at + 2));
    row.remove("emails.home");
    row.remove("employeeNumber");
    return row;
  }

  private static Crowd crowd(Path file, int size) {
    var pool =
        JdbcConnectionPool.create("jdbc:h2:file:%s;CACHE_SIZE=1000000".formatted(file), "ebb", "");
    Flyway.configure().dataSource(pool).load().migrate();
    var database = Database.open(pool, People.ENTITIES.toArray(Class<?>[]::new));
    var people = new People();
    var random = new Random(42);
    var all = new ArrayList<Person>();
    for (int from = 0; from < size; from += 1_000) {
      var part = new ArrayList<Person>();
      for (int i = from; i < Math.min(from + 1_000, size); i++) {
        part.add(person(i + 1, random));
      }
      database.writeAll(
          session -> part.forEach(person -> people.keep(session, person, null, null)));
      all.addAll(part);
    }
    return new Crowd(database, pool, all);
  }

  private static Person person(long id, Random random) {
    var held = new TreeMap<String, Held>();
    put(held, "name.givenName", name(skewed(random, GIVEN_NAMES), 5));
    put(held, "name.familyName", name(GIVEN_NAMES + skewed(random, FAMILY_NAMES), 8));
    put(held, "emails.home", "p%d@post.example".formatted(id));
    put(held, "phoneNumbers.mobile", "+47 4%07d".formatted(random.nextInt(10_000_000)));
    put(held, "employeeNumber", "S" + id);
    put(
        held,
        "startDate",
        "20%02d-%02d-%02d"
            .formatted(random.nextInt(25), 1 + random.nextInt(12), 1 + random.nextInt(28)));
    put(held, "department", "Unit %03d".formatted(random.nextInt(200)));
    return new Person(new PersonId(id), held);
  }

  /** The tenth name is borne by a tenth as many as the first. */
  private static int skewed(Random random, int names) {
    return (int) Math.floor(Math.pow(names, random.nextDouble())) - 1;
  }

  private static String name(int number, int length) {
    var random = new Random(number);
    var letters = new StringBuilder();
    for (int i = 0; i < length; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  private static void put(TreeMap<String, Held> held, String name, String value) {
    held.put(name, new Held(value, "hr", Instant.EPOCH));
  }

  private MatchLikeness() {}
}
