package ebb.store.people;

import ebb.core.person.PersonId;
import ebb.store.Among;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;

/**
 * The registry of login names. One that was given up stays with its person as an alias and is never
 * given to anybody else.
 */
public final class Logins {
  /** One namespace serves all applications of the organisation: a login is the same everywhere. */
  private static final String NAMESPACE = "login";

  /**
   * @param current null if none is allocated
   * @param isFound whether the current one was found in an application, and is kept as it is
   * @param scheme the number of the one by which the current one was made
   * @param aliases oldest first
   */
  public record Held(String current, boolean isFound, int scheme, List<String> aliases) {
    public static final Held NONE = new Held(null, false, 0, List.of());
  }

  /** Whose name this is or was. */
  public Optional<PersonId> owner(StatelessSession session, String name) {
    return Optional.ofNullable(
            session.get(LoginNameEntity.class, new LoginNameEntity.Key(NAMESPACE, name)))
        .map(row -> new PersonId(row.personId));
  }

  /** Whose names these are or were; names that are nobody's are left out. */
  public Map<String, PersonId> owners(StatelessSession session, Collection<String> names) {
    var owners = new HashMap<String, PersonId>();
    // One by one: for a list the database would look through all names there are.
    session.doWork(
        connection -> {
          try (var query =
              connection.prepareStatement(
                  "select person_id from login_name where namespace = ? and name = ?")) {
            query.setString(1, NAMESPACE);
            for (var name : names) {
              query.setString(2, name);
              try (var found = query.executeQuery()) {
                if (found.next()) {
                  owners.put(name, new PersonId(found.getLong(1)));
                }
              }
            }
          }
        });
    return owners;
  }

  /** Which of these names rest on a day, and whose they were before those were forgotten. */
  public Map<String, PersonId> resting(
      StatelessSession session, Collection<String> names, LocalDate day) {
    return session.doReturningWork(
        connection -> {
          var resting = new HashMap<String, PersonId>();
          try (var query =
              connection.prepareStatement(
                  "select person_id from resting_login where print = rawtohex(hash('SHA-256', ?))"
                      + " and until_date >= ?")) {
            query.setObject(2, day);
            for (var name : names) {
              query.setString(1, name);
              try (var found = query.executeQuery()) {
                if (found.next()) {
                  resting.put(name, new PersonId(found.getLong(1)));
                }
              }
            }
          }
          return resting;
        });
  }

  public Map<PersonId, Held> of(StatelessSession session, Collection<PersonId> people) {
    var all = new HashMap<PersonId, List<Name>>();
    Among.each(
        session,
        "select person_id, name, is_current, is_found, scheme, since from login_name"
            + " where person_id in (%s)",
        people.stream().map(PersonId::value).distinct().toList(),
        row ->
            all.computeIfAbsent(new PersonId(row.getLong(1)), _ -> new ArrayList<>())
                .add(
                    new Name(
                        row.getString(2),
                        row.getBoolean(3),
                        row.getBoolean(4),
                        row.getInt(5),
                        row.getObject(6, OffsetDateTime.class).toInstant())));
    var held = new HashMap<PersonId, Held>();
    all.forEach((person, names) -> held.put(person, held(names)));
    return held;
  }

  private record Name(String text, boolean isCurrent, boolean isFound, int scheme, Instant since) {}

  private static Held held(List<Name> names) {
    var current = names.stream().filter(Name::isCurrent).findFirst();
    return new Held(
        current.map(Name::text).orElse(null),
        current.map(Name::isFound).orElse(false),
        current.map(Name::scheme).orElse(0),
        names.stream()
            .filter(name -> !name.isCurrent())
            .sorted(Comparator.comparing(Name::since).thenComparing(Name::text))
            .map(Name::text)
            .toList());
  }

  /**
   * Makes a name the person's current one; the one before becomes an alias.
   *
   * @param scheme by which it was made
   */
  public void allocate(
      StatelessSession session,
      PersonId person,
      String name,
      boolean isFound,
      int scheme,
      Instant at) {
    session
        .createMutationQuery(
            "update LoginNameEntity set current = false where personId = :person and current")
        .setParameter("person", person.value())
        .executeUpdate();
    var row = new LoginNameEntity();
    row.id = new LoginNameEntity.Key(NAMESPACE, name);
    row.personId = person.value();
    row.current = true;
    row.found = isFound;
    row.scheme = scheme;
    row.since = at;
    session.upsert(row);
  }
}
