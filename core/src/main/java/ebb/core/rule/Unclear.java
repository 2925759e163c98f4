package ebb.core.rule;

/**
 * What could not be computed for somebody. Nothing is changed by it: what they have there stays as
 * it is.
 *
 * @param field "condition", "seats" or the attribute of the account
 * @param why what the expression failed with
 */
public record Unclear(String application, String rule, String field, String why) {}
