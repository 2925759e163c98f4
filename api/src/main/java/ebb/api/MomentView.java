package ebb.api;

import java.time.Instant;

/**
 * Something that happens on the tide line.
 *
 * @param kind day, change or gate
 * @param application null where it is about the person
 * @param changeSet null where none brought it
 * @param departure null where it is not part of one
 * @param open of a gate: whether it is open; else null
 */
public record MomentView(
    Instant at,
    String kind,
    String words,
    String application,
    Long changeSet,
    Long departure,
    Boolean open) {}
