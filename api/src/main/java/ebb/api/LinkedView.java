package ebb.api;

/**
 * An account and what follows from whose it is.
 *
 * @param changeSet would make it what it should be, with whatever else drifted there; null if
 *     nothing did
 */
public record LinkedView(AccountView account, Long changeSet) {}
