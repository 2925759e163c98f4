package ebb.api;

/**
 * How often a kind of disagreement is found.
 *
 * @param words what it is, in a few words
 */
public record FindingCountView(String kind, String words, long count) {}
