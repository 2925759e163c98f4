package ebb.core.change;

import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import java.time.LocalDate;
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
   * @param until the last day the values are said; null for no end
   */
  record Assert(
      PersonId person,
      String source,
      String key,
      String rowHash,
      Map<String, String> edits,
      LocalDate until)
      implements Input {
    public Assert(
        PersonId person, String source, String key, String rowHash, Map<String, String> edits) {
      this(person, source, key, rowHash, edits, null);
    }

    public Assert {
      edits = Collections.unmodifiableMap(new TreeMap<>(edits));
    }
  }

  /**
   * A source calls a person by another key from now on. The one before stands for nobody any more.
   */
  record Rekey(PersonId person, String source, String from, String to) implements Input {
    /** What it is called among a row's changed attributes. */
    public static final String CHANGED = "key";
  }

  /** A key of a source stands for this person from now on, and no more for another. */
  record MoveKey(PersonId person, String source, String key, PersonId from) implements Input {}

  /** An account that is nobody's is this person's from now on. */
  record Link(PersonId person, long account) implements Input {}

  /** An account is nobody's from now on. */
  record Unlink(PersonId person, long account) implements Input {}

  /**
   * A person signs in by this name from now on.
   *
   * @param kept whether it stays whatever their name becomes
   * @param before the login they had; null if none
   * @param wasKept whether that one was to stay
   */
  record Login(PersonId person, String login, boolean kept, String before, boolean wasKept)
      implements Input {}

  record Give(PersonId person, Grant grant) implements Input {}

  record EndGrant(PersonId person, long grant) implements Input {}

  record Suspend(PersonId person, Suspension suspension) implements Input {}

  record EndSuspension(PersonId person, long suspension) implements Input {}
}
