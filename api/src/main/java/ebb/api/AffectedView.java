package ebb.api;

import java.util.List;

/**
 * What suspending would do to somebody.
 *
 * @param outcome changes, already so, or not allowed
 * @param why in words; null where nothing is to be said
 * @param applications in which an account is switched off
 */
public record AffectedView(
    long person, String displayName, String outcome, String why, List<String> applications) {}
