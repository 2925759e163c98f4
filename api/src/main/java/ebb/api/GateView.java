package ebb.api;

/**
 * What must be true before an account is deleted.
 *
 * @param state open, shut, not known or waived
 * @param needsSomebody whether it stays shut until an operator does something
 */
public record GateView(
    String name, String state, String why, String remedy, boolean needsSomebody) {}
