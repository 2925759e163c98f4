package ebb.core.rule;

import ebb.core.person.Grant;
import ebb.core.person.Person;
import ebb.core.person.Suspension;
import java.util.List;

/**
 * All that is known of the one whose accounts are computed.
 *
 * @param login drawn from the registry; null if none is allocated
 * @param aliases earlier logins that still belong to the person, oldest first
 * @param suspensions that were not ended, whatever their dates
 * @param stopped whether an emergency stop is in force
 */
public record Subject(
    Person person,
    String login,
    List<String> aliases,
    List<Grant> grants,
    List<Suspension> suspensions,
    boolean stopped) {
  public Subject {
    aliases = List.copyOf(aliases);
    grants = List.copyOf(grants);
    suspensions = List.copyOf(suspensions);
  }
}
