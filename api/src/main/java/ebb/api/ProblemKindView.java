package ebb.api;

/**
 * Rows that are refused for the same reason in the same column.
 *
 * @param heading empty where no single column is meant
 */
public record ProblemKindView(String code, String heading, long rows, ProblemView example) {}
