package ebb.core.application;

import java.time.Duration;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * What an application can do, as far as Ebb uses it.
 *
 * @param writable attributes that can be set
 * @param required those of them without which no account is made
 * @param equality per attribute; exact where none is given
 * @param parts what it can do beside accounts
 * @param page how many accounts it sends at most at once; 0 if it does not say
 * @param settles how long after a write reads may still show what was before
 * @param denied attributes that may not be changed with the rights Ebb has there, as was tried
 */
public record Capabilities(
    Set<String> writable,
    Set<String> required,
    Map<String, Equality> equality,
    Set<Part> parts,
    int page,
    Duration settles,
    Set<String> denied) {
  public Capabilities {
    // Those that were kept before any rights were tried.
    denied = denied == null ? Set.of() : Set.copyOf(denied);
  }

  /** Of an application whose rights are not tried attribute by attribute. */
  public Capabilities(
      Set<String> writable,
      Set<String> required,
      Map<String, Equality> equality,
      Set<Part> parts,
      int page,
      Duration settles) {
    this(writable, required, equality, parts, page, settles, Set.of());
  }

  /** What is assumed of an application that has never answered. */
  public static final Capabilities UNKNOWN =
      new Capabilities(Set.of(), Set.of(), Map.of(), Set.of(Part.GROUPS), 0, Duration.ZERO);

  public Equality equalityOf(String attribute) {
    return equality.getOrDefault(attribute, Equality.EXACT);
  }

  /** The same, with other parts. */
  public Capabilities with(Set<Part> parts) {
    return new Capabilities(writable, required, equality, parts, page, settles, denied);
  }

  /** The same, but for attributes that may not be changed. */
  public Capabilities denying(Set<String> attributes) {
    var left = new TreeSet<>(writable);
    left.removeAll(attributes);
    return new Capabilities(left, required, equality, parts, page, settles, attributes);
  }

  public boolean has(Part part) {
    return parts.contains(part);
  }
}
