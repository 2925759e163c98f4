package ebb.core.person;

/** The one permanent identity of a person in Ebb; never reused, never changed by a rename. */
public record PersonId(long value) implements Comparable<PersonId> {
  @Override
  public int compareTo(PersonId other) {
    return Long.compare(value, other.value);
  }

  @Override
  public String toString() {
    return Long.toString(value);
  }
}
