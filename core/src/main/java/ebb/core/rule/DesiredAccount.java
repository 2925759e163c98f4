package ebb.core.rule;

import ebb.core.application.Level;
import ebb.core.application.Value;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What one application should hold for one person. An application that is missing from the desired
 * accounts is one the person is not entitled to; what stands there is then closed, never deleted
 * outright.
 *
 * @param level prepared, active or suspended
 * @param seats seat to the rule that gives it
 * @param values empty while suspended: a suspended account keeps what it holds
 */
public record DesiredAccount(
    String application,
    Level level,
    String ground,
    SortedMap<String, Grounded<Value>> values,
    SortedMap<String, String> groups,
    SortedMap<String, String> seats) {
  /** The ground that outranks every rule, until it is lifted. */
  public static final String EMERGENCY_STOP = "emergency stop";

  static DesiredAccount suspended(String application, String ground) {
    return new DesiredAccount(
        application, Level.SUSPENDED, ground, new TreeMap<>(), new TreeMap<>(), new TreeMap<>());
  }

  public boolean isStopped() {
    return ground.equals(EMERGENCY_STOP);
  }

  public SortedSet<String> groupNames() {
    return new TreeSet<>(groups.keySet());
  }
}
