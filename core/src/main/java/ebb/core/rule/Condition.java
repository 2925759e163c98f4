package ebb.core.rule;

import java.util.List;

/**
 * A condition as it is built without knowing CEL. Each has one form in CEL, and reading that form
 * gives the same condition again.
 */
public sealed interface Condition {
  /** Holds if all of them do; for everybody if there are none. */
  record All(List<Condition> of) implements Condition {
    public All {
      of = List.copyOf(of);
    }
  }

  /** Holds if any of them does. */
  record Any(List<Condition> of) implements Condition {
    public Any {
      of = List.copyOf(of);
    }
  }

  record Not(Condition of) implements Condition {}

  /**
   * A value compared.
   *
   * @param attribute of the person, as in name.familyName
   * @param values one, but for ONE_OF and SET
   */
  record Is(String attribute, Comparison comparison, List<String> values) implements Condition {
    public Is {
      values = List.copyOf(values);
    }
  }

  /** What no part above can say. */
  record Other(String cel) implements Condition {}

  /** How a value is compared. Texts are case-exact; dates compare as texts, year first. */
  enum Comparison {
    EQUAL("is"),
    UNEQUAL("is not"),
    ONE_OF("is one of"),
    BEGINS("begins with"),
    ENDS("ends with"),
    CONTAINS("contains"),
    AT_LEAST("is at or after"),
    BEFORE("is before"),
    /** Whether there is a value at all. */
    SET("is known");

    private final String words;

    Comparison(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }

    /** As in at-least. */
    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }
}
