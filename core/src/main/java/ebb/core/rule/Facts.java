package ebb.core.rule;

import ebb.core.person.Person;
import ebb.core.person.PersonId;
import java.util.List;
import java.util.Optional;

/** What the computation may read beyond the subject itself. */
public interface Facts {
  /** Another person; empty if unknown. */
  Optional<Person> person(PersonId id);

  /** A unit and those above it, the nearest first; the unit alone where no tree is known. */
  default List<String> path(String unit) {
    return List.of(unit);
  }
}
