package ebb.core.application;

import ebb.core.name.Folding;
import java.util.Collection;
import java.util.Locale;
import java.util.TreeSet;

/** When an application takes two values for the same. Several values are compared as a set. */
public enum Equality {
  EXACT,
  /** Case and repeated or outer spaces make no odds (caseIgnoreMatch, RFC 4517, 4.2.11). */
  IGNORE_CASE_AND_SPACE,
  /** Digits only (telephoneNumberMatch, RFC 4517, 4.2.29). */
  TELEPHONE,
  /** The application spells names in its own way; accents make no odds either. */
  FOLDED;

  /**
   * By the word a setting has for it: "exact", "ignore-case", "telephone" or "folded".
   *
   * @throws IllegalArgumentException if it is none of them
   */
  public static Equality of(String word) {
    return switch (word) {
      case "exact" -> EXACT;
      case "ignore-case" -> IGNORE_CASE_AND_SPACE;
      case "telephone" -> TELEPHONE;
      case "folded" -> FOLDED;
      default -> throw new IllegalArgumentException("There is no equality " + word);
    };
  }

  /** The way back of {@link #of}. */
  public String word() {
    return switch (this) {
      case EXACT -> "exact";
      case IGNORE_CASE_AND_SPACE -> "ignore-case";
      case TELEPHONE -> "telephone";
      case FOLDED -> "folded";
    };
  }

  public boolean same(Collection<String> one, Collection<String> other) {
    return canonical(one).equals(canonical(other));
  }

  private TreeSet<String> canonical(Collection<String> values) {
    return new TreeSet<>(values.stream().map(this::canonical).toList());
  }

  private String canonical(String value) {
    return switch (this) {
      case EXACT -> value;
      case IGNORE_CASE_AND_SPACE -> value.strip().replaceAll("\\s+", " ").toLowerCase(Locale.ROOT);
      case TELEPHONE -> value.replaceAll("[\\s-]", "");
      case FOLDED -> Folding.forComparing(value);
    };
  }
}
