package ebb.api;

/**
 * One value of an account: what it should be, by which rule, and what it is.
 *
 * @param expression the mapping of the rule; null for a reference
 * @param should empty for nothing
 * @param is as last seen; empty for nothing, null where there is no account yet
 */
public record HeldValueView(
    String attribute, String ground, String expression, String should, String is) {}
