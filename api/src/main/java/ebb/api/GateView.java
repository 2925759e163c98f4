package ebb.api;

/**
 * What must be true before an account is deleted.
 *
 * @param state open, shut, not known or waived
 * @param needsSomebody whether it stays shut until an operator does something
 * @param opener who may, by role: "steward or administrator"; null where it opens by itself
 */
public record GateView(
    String name, String state, String why, String remedy, boolean needsSomebody, String opener) {}
