package ebb.api;

/**
 * Leaves out of a handover what has not been handed over.
 *
 * @param account number in the departure
 * @param kind of which all is left out; null for one item
 * @param item its id; null for all of the kind
 */
public record LeaveOutRequest(long account, String kind, String item, String reason) {}
