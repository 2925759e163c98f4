package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * The changes that one cause brings.
 *
 * @param stops what the guard says against it; empty if nothing
 * @param cannotBeTakenBack what taking it back would not undo, in words
 */
public record ChangeSetView(
    long id,
    long version,
    String cause,
    String title,
    String state,
    List<CountView> counts,
    List<TroubleView> troubles,
    List<ProblemView> stops,
    Long takesBack,
    Long takenBackBy,
    List<String> cannotBeTakenBack,
    String createdBy,
    Instant createdAt,
    String releasedBy,
    Instant releasedAt) {}
