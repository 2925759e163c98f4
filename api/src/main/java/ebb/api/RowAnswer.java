package ebb.api;

/**
 * Answers a row set aside.
 *
 * @param answer "new", or "same:" and the number of the person
 */
public record RowAnswer(String answer) {}
