package ebb.api;

/**
 * What is to be said of a group, in place of what was; all null takes it back.
 *
 * @param risk low, high or full
 * @param scope what it opens, in words
 * @param most accounts in use that may be in it, in one application
 * @param reason goes into the journal
 */
public record GroupMarkEdit(String risk, String scope, Integer most, String reason) {}
