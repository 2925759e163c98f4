package ebb.core.rule;

/** Something held, and why: the name of the rule or "grant 12". */
public record Grounded<T>(T value, String ground) {}
