package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * One step on one account.
 *
 * @param what the step in words
 */
public record ChangeView(
    long id,
    long changeSet,
    long person,
    String displayName,
    String application,
    String kind,
    String state,
    String what,
    List<EditView> edits,
    String ground,
    int attempts,
    ProblemView problem,
    Instant askedAt,
    Instant seenAt) {}
