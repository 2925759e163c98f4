package ebb.api;

/**
 * What must be true before an account is deleted.
 *
 * @param state open, shut, not known or waived
 */
public record GateView(String name, String state, String why, String remedy) {}
