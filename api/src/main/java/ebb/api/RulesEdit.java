package ebb.api;

import java.util.List;

/**
 * Several rules that are to be otherwise at once.
 *
 * @param rules as they are to be, each with its name
 * @param removed names of those that are to go; null for none
 * @param expected for how many people something should change; null where nobody knows
 */
public record RulesEdit(List<RuleView> rules, List<String> removed, Long expected) {}
