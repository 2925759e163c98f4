package ebb.api;

import java.time.LocalDate;

/**
 * What answers by itself whoever writes to somebody who has left.
 *
 * @param state wanted, set, to take back or taken back
 * @param until the last day on which it is sent
 * @param problem why it could not be set or taken back so far; null otherwise
 */
public record ReplyView(String state, LocalDate until, ProblemView problem) {}
