package ebb.core.change;

import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/** A change of inputs that stays a proposal until its set is released. */
public sealed interface Input {
  PersonId person();

  /**
   * A source says something of a person.
   *
   * @param key the source's key for the person; null for a hand
   * @param rowHash of the row it comes from; null where there is no row, or where it is to count
   *     again next time
   * @param edits null as a value takes an assertion away
   */
  record Assert(
      PersonId person, String source, String key, String rowHash, Map<String, String> edits)
      implements Input {
    public Assert {
      edits = Collections.unmodifiableMap(new TreeMap<>(edits));
    }
  }

  record Give(PersonId person, Grant grant) implements Input {}

  record EndGrant(PersonId person, long grant) implements Input {}
}
