package ebb.api;

/**
 * What may be amiss with people who are here.
 *
 * @param words as they follow "12 people"
 * @param remedy why it matters, and what can be done
 */
public record OddityView(String kind, String words, String remedy, long people) {}
