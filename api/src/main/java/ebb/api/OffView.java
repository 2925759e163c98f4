package ebb.api;

import java.time.LocalDate;
import java.util.Set;

/**
 * An account that is suspended, and whether its removal may begin.
 *
 * @param person null if it is nobody's
 * @param since null if it is not known
 * @param days for how long; null if it is not known
 * @param why by what it is off: a suspension, a departure, the person's stage; null if not known
 * @param seats it takes all the while
 * @param against why its removal may not begin; null if it may
 * @param departure that takes care of it; null if none does
 */
public record OffView(
    long account,
    String name,
    Long person,
    String displayName,
    String department,
    LocalDate since,
    Long days,
    String why,
    Set<String> seats,
    String against,
    Long departure) {}
