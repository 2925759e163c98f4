package ebb.store.people;

import ebb.core.imports.Print;
import ebb.core.person.PersonId;
import ebb.store.Page;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.SortedMap;
import org.hibernate.StatelessSession;

/** Where sources say different things of people, and which of that somebody has looked at. */
public final class StoredConflicts {
  /** An attribute of a person that sources do not agree on. */
  public record Open(PersonId person, String attribute) {}

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

  /** Those nobody has looked at, in the order of people's numbers, after one. */
  public Page<Open> open(StatelessSession session, Long after, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from ConflictEntity where settledBy is null and id.personId > :after"
                    + " order by id.personId, id.attribute",
                ConflictEntity.class)
            .setParameter("after", after == null ? 0L : after)
            .setMaxResults(limit)
            .stream()
            .map(row -> new Open(new PersonId(row.id.personId()), row.id.attribute()))
            .toList();
    // Whoever is cut off by the end of the page is shown whole on the next.
    if (rows.size() < limit || rows.getFirst().person().equals(rows.getLast().person())) {
      return new Page<>(
          rows, rows.size() < limit ? null : Long.toString(rows.getLast().person().value()));
    }
    var last = rows.getLast().person();
    var whole = rows.stream().filter(row -> !row.person().equals(last)).toList();
    return new Page<>(whole, Long.toString(whole.getLast().person().value()));
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
