package ebb.store.people;

import ebb.core.imports.Print;
import ebb.core.person.PersonId;
import ebb.store.Page;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import org.hibernate.StatelessSession;

/** Where sources say different things of people, and which of that somebody has looked at. */
public final class StoredConflicts {
  /** An attribute of a person that sources do not agree on. */
  public record Open(PersonId person, String attribute) {
    /** Where a list goes on after this one. */
    String cursor() {
      return person + ":" + attribute;
    }

    /** The way back of {@link Page#next}; empty if it is no such text. */
    public static Optional<Open> of(String cursor) {
      return cursor.matches("\\d{1,18}:\\S{1,60}")
          ? Optional.of(
              new Open(
                  new PersonId(Long.parseLong(cursor.substring(0, cursor.indexOf(':')))),
                  cursor.substring(cursor.indexOf(':') + 1)))
          : Optional.empty();
    }
  }

  /**
   * Keeps what sources do not agree on now. A choice somebody made stays as long as each of them
   * says what it said then.
   *
   * @param now person to attribute to source to value; a person who is left out has none
   */
  public void keep(
      StatelessSession session,
      Collection<PersonId> people,
      Map<PersonId, SortedMap<String, SortedMap<String, String>>> now) {
    var missing = new HashMap<ConflictEntity.Key, String>();
    now.forEach(
        (person, all) ->
            all.forEach(
                (attribute, said) ->
                    missing.put(
                        new ConflictEntity.Key(person.value(), attribute),
                        Print.of(said.toString()).text())));
    session
        .createSelectionQuery(
            "from ConflictEntity where id.personId in (:people)", ConflictEntity.class)
        .setParameterList("people", people.stream().map(PersonId::value).toList())
        .list()
        .forEach(
            row -> {
              var print = missing.remove(row.id);
              if (print == null) {
                session.delete(row);
              } else if (!print.equals(row.print)) {
                row.print = print;
                row.settledBy = null;
                session.update(row);
              }
            });
    missing.forEach(
        (key, print) -> {
          var row = new ConflictEntity();
          row.id = key;
          row.print = print;
          session.insert(row);
        });
  }

  /**
   * Those nobody has looked at, in the order of people's numbers.
   *
   * @param after the one before the first; null to begin at the start
   */
  public Page<Open> open(StatelessSession session, Open after, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from ConflictEntity where settledBy is null"
                    + " and (id.personId, id.attribute) > (:person, :attribute)"
                    + " order by id.personId, id.attribute",
                ConflictEntity.class)
            .setParameter("person", after == null ? 0L : after.person().value())
            .setParameter("attribute", after == null ? "" : after.attribute())
            .setMaxResults(limit)
            .stream()
            .map(row -> new Open(new PersonId(row.id.personId()), row.id.attribute()))
            .toList();
    return new Page<>(rows, rows.size() < limit ? null : rows.getLast().cursor());
  }

  public long countOpen(StatelessSession session, int most) {
    return session
        .createSelectionQuery("from ConflictEntity where settledBy is null", ConflictEntity.class)
        .setMaxResults(most)
        .list()
        .size();
  }

  /**
   * Remembers that somebody has looked at it.
   *
   * @return false if sources agree on it
   */
  public boolean settle(StatelessSession session, PersonId person, String attribute, String by) {
    var row = session.get(ConflictEntity.class, new ConflictEntity.Key(person.value(), attribute));
    if (row == null) {
      return false;
    }
    row.settledBy = by;
    session.update(row);
    return true;
  }
}
