package ebb.api;

/**
 * What is wrong, why, and what to do.
 *
 * @param where file, line and column in words; null where there is no place
 * @param column the heading or attribute meant; null where no single one is
 */
public record ProblemView(
    String code, String what, String why, String remedy, String where, String column) {}
