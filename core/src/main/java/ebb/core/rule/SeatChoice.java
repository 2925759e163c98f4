package ebb.core.rule;

/**
 * A seat that a rule may give.
 *
 * @param condition CEL over person; null for everyone of the rule
 */
public record SeatChoice(String seat, String condition) {}
