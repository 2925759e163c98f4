package ebb.core.rule;

import ebb.core.person.Person;
import ebb.core.person.PersonId;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;

/** Facts that remember what was read, so that a changed fact wakes exactly its readers. */
public final class RecordedFacts implements Facts {
  private final Facts facts;
  private final TreeSet<PersonId> read = new TreeSet<>();

  public RecordedFacts(Facts facts) {
    this.facts = facts;
  }

  @Override
  public Optional<Person> person(PersonId id) {
    read.add(id);
    return facts.person(id);
  }

  @Override
  public List<String> path(String unit) {
    return facts.path(unit);
  }

  /** People read so far, unknown ones too: should they appear, the reader must wake. */
  public SortedSet<PersonId> read() {
    return Collections.unmodifiableSortedSet(read);
  }
}
