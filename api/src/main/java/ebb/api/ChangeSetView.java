package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * The changes that one cause brings.
 *
 * @param importId the file brought in that it comes from; null if it does not
 * @param rules that come into force with it, or did
 * @param progress while it is being computed, in people; null otherwise
 * @param people how many it concerns
 * @param peopleLeft how many of them nothing was released for yet
 * @param stops what the guard says against it; empty if nothing
 * @param remarks what is to be known before it is let through; it stops nothing
 * @param cannotBeTakenBack what taking it back would not undo, in words
 */
public record ChangeSetView(
    long id,
    long version,
    String cause,
    String title,
    String state,
    List<String> rules,
    ProgressView progress,
    long people,
    long peopleLeft,
    List<CountView> counts,
    List<TroubleView> troubles,
    List<ProblemView> stops,
    List<ProblemView> remarks,
    Long importId,
    Long takesBack,
    Long takenBackBy,
    List<String> cannotBeTakenBack,
    String createdBy,
    Instant createdAt,
    String releasedBy,
    Instant releasedAt) {}
