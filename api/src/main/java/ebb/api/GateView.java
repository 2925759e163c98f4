package ebb.api;

import java.time.LocalDate;

/**
 * What must be true before an account is deleted.
 *
 * @param state open, shut, not known or waived
 * @param needsSomebody whether it stays shut until an operator does something
 * @param opener who may, by role: "steward or administrator"; null where it opens by itself
 * @param since the day on which it was found shut; null where it is open, or not looked at so far
 */
public record GateView(
    String name,
    String state,
    String why,
    String remedy,
    boolean needsSomebody,
    String opener,
    LocalDate since) {}
