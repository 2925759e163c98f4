package ebb.api;

/**
 * Approves the deletion of an account that owned much.
 *
 * @param account number in the departure
 */
public record ApprovalRequest(long account, String reason) {}
