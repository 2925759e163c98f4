package ebb.core.imports;

import ebb.core.name.Folding;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Whether a new row may be somebody who is known already, and why one would think so. */
public final class Likeness {
  /**
   * @param reasons in words, strongest first; never empty
   */
  public record Resemblance(Person person, List<String> reasons) {}

  /**
   * People are looked up by this before they are compared; one name in any spelling gives one key.
   */
  public static String blockingKey(String givenName, String familyName) {
    return Folding.forComparing(givenName) + " " + Folding.forComparing(familyName);
  }

  public static String blockingKey(Map<String, String> values) {
    return blockingKey(
        values.getOrDefault(Attributes.GIVEN_NAME, ""),
        values.getOrDefault(Attributes.FAMILY_NAME, ""));
  }

  /**
   * Compares a row under a key never seen with a person of the same name. Two of one name are
   * common and no reason to doubt; with another likeness they are.
   *
   * @param vanished whether the person is missing from the source now
   */
  public static Optional<Resemblance> between(
      Map<String, String> values, Person person, boolean vanished) {
    var reasons = new ArrayList<String>();
    if (isSame(values, person, Attributes.HOME_EMAIL)) {
      reasons.add("the same private address");
    }
    if (isSame(values, person, Attributes.MOBILE)) {
      reasons.add("the same mobile number");
    }
    if (vanished) {
      reasons.add("missing from the source now");
    }
    if (reasons.isEmpty()) {
      return Optional.empty();
    }
    reasons.addFirst("the same name");
    return Optional.of(new Resemblance(person, reasons));
  }

  /** A person of the same name, where somebody is sure that the row is nobody new. */
  public static Resemblance byName(Map<String, String> values, Person person, boolean vanished) {
    return between(values, person, vanished)
        .orElseGet(() -> new Resemblance(person, List.of("the same name")));
  }

  private static boolean isSame(Map<String, String> values, Person person, String attribute) {
    var value = values.get(attribute);
    return value != null
        && person
            .get(attribute)
            .filter(held -> canonical(held).equals(canonical(value)))
            .isPresent();
  }

  private static String canonical(String value) {
    return value.toLowerCase(java.util.Locale.ROOT).replaceAll("[\\s()/-]", "");
  }

  private Likeness() {}
}
