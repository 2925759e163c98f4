package ebb.core.rule;

import ebb.core.person.Person;
import ebb.core.person.PersonId;
import java.util.Optional;

/** What the computation may read beyond the subject itself. */
public interface Facts {
  /** Another person; empty if unknown. */
  Optional<Person> person(PersonId id);
}
