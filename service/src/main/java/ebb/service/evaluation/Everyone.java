package ebb.service.evaluation;

import ebb.core.person.PersonId;
import ebb.store.Database;
import ebb.store.people.People;
import java.util.Iterator;
import java.util.List;
import org.springframework.stereotype.Component;

/** All people, part by part, in the order of their numbers. */
@Component
public final class Everyone implements Iterable<List<PersonId>> {
  private final Database database;
  private final People people;

  Everyone(Database database, People people) {
    this.database = database;
    this.people = people;
  }

  @Override
  public Iterator<List<PersonId>> iterator() {
    return new Iterator<>() {
      private List<PersonId> next = after(new PersonId(0));

      @Override
      public boolean hasNext() {
        return !next.isEmpty();
      }

      @Override
      public List<PersonId> next() {
        var part = next;
        next = after(part.getLast());
        return part;
      }
    };
  }

  private List<PersonId> after(PersonId last) {
    return database.read(session -> people.after(session, last, Evaluator.PART));
  }
}
