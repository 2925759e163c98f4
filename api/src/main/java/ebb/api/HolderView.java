package ebb.api;

/**
 * Somebody in a group of an application.
 *
 * @param account by which its application calls it
 * @param ground a rule, or "grant 12"; null where it was found there
 */
public record HolderView(
    long person,
    String displayName,
    String department,
    String application,
    String account,
    String level,
    String ground) {}
