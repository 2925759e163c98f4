package ebb.api;

/**
 * Somebody in a group of an application.
 *
 * @param account by which its application calls it
 * @param through the group the account is in that is within this one; null where it is in it itself
 * @param ground a rule, or "grant 12"; null where it was found there
 */
public record HolderView(
    long person,
    String displayName,
    String department,
    String application,
    String account,
    String level,
    String through,
    String ground) {}
