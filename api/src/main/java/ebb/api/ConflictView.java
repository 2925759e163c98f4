package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * An attribute of a person that sources do not agree on.
 *
 * @param holds the source whose value holds; hand where somebody set it
 * @param value the value that holds; null for none
 * @param said what each source says, the strongest first
 */
public record ConflictView(
    long person,
    String displayName,
    String attribute,
    String holds,
    String value,
    List<SaidView> said) {
  public record SaidView(String source, String value, Instant since) {}
}
