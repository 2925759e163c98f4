package ebb.core.person;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What can be said of a person.
 *
 * @param required nobody can be created without it
 * @param fallback what a new person gets where nothing is said; null for nothing
 * @param searchable whether people can be filtered by it
 * @param byHand whether operators may set it
 * @param choices the values of a choice; empty for every other type
 * @param own defined by the organisation, and no part of a standard
 */
public record Attribute(
    String name,
    Type type,
    boolean required,
    String fallback,
    boolean searchable,
    ByHand byHand,
    List<String> choices,
    boolean own) {
  /** Names that expressions, filters and headings can all hold. */
  private static final Pattern NAME = Pattern.compile("[a-z][A-Za-z0-9]{0,39}");

  /** What a value must look like. */
  public enum Type {
    TEXT,
    NUMBER,
    DATE,
    YES_NO,
    CHOICE,
    EMAIL,
    PHONE,
    /** The key of another person in the same source. */
    PERSON,
    ZONE;

    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }

  public Attribute {
    choices = List.copyOf(choices);
  }

  static Attribute standard(String name, Type type, boolean required) {
    return new Attribute(name, type, required, null, true, ByHand.ALLOWED, List.of(), false);
  }

  /** The same, set by hand in another way. */
  public Attribute setBy(ByHand hand) {
    return new Attribute(name, type, required, fallback, searchable, hand, choices, own);
  }

  /** The choice a text means; letter case makes no odds. */
  public Optional<String> choice(String text) {
    return choices.stream().filter(choice -> choice.equalsIgnoreCase(text)).findFirst();
  }

  public static boolean isName(String name) {
    return name != null && NAME.matcher(name).matches();
  }
}
