package ebb.core.person;

import java.util.Locale;

/** What may be amiss with somebody who is here: kept in sight, and settled one by one. */
public enum Oddity {
  NO_UNIT(
      "belong to no unit",
      "Rules that go by units pass them over. Give them a unit, or mend their source."),
  NO_MANAGER(
      "have no manager",
      "Nobody answers for them, and nobody gets what they own when they leave. Name one; the head of all may stay without."),
  MANAGER_GONE(
      "have a manager who has departed",
      "What is asked of their manager reaches nobody. Name another; many at once: ebb people edit, or Set a value."),
  MANAGER_LOOP(
      "are above themselves in the reporting line",
      "Applications that follow the line never come to its end. Correct one of the managers."),
  NO_ACCOUNT(
      "have no account in use",
      "No rule gives them any, or it is suspended. See why on their page."),
  UNCLEAR(
      "have something that cannot be computed",
      "What depends on it stays as it is. See which rule on their page, and put the rule or the value right.");

  private final String words;
  private final String remedy;

  Oddity(String words, String remedy) {
    this.words = words;
    this.remedy = remedy;
  }

  /** As it follows "12 people". */
  public String words() {
    return words;
  }

  /** Why it matters, and what can be done. */
  public String remedy() {
    return remedy;
  }

  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
