package ebb.api;

import java.time.Instant;

/**
 * What was said of a group.
 *
 * @param risk low, high or full (whoever is in it can give themselves anything); null if nobody
 *     said
 * @param scope what it opens, in words; null if nobody said
 * @param most accounts in use that may be in it, in one application; null for any number
 */
public record GroupMarkView(
    String name, String risk, String scope, Integer most, String setBy, Instant setAt) {}
