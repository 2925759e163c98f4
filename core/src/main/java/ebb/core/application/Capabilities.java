package ebb.core.application;

import java.util.Map;
import java.util.Set;

/**
 * What an application can do, as far as Ebb uses it.
 *
 * @param writable attributes that can be set
 * @param equality per attribute; exact where none is given
 * @param groups whether memberships can be read and set
 * @param ownership whether it can say what an account owns, and hand it over
 * @param references whether it can say what refers to an account
 * @param restorable whether a deleted account can be brought back by the application itself
 */
public record Capabilities(
    Set<String> writable,
    Map<String, Equality> equality,
    boolean groups,
    boolean ownership,
    boolean references,
    boolean restorable) {
  public Equality equalityOf(String attribute) {
    return equality.getOrDefault(attribute, Equality.EXACT);
  }
}
