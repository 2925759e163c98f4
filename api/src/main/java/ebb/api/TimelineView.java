package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * One person over time: what happened before now, what will happen after it if nothing is changed.
 *
 * @param zone the person's own time zone
 */
public record TimelineView(
    Instant from,
    Instant now,
    Instant until,
    String zone,
    List<LaneView> lanes,
    List<MomentView> moments) {}
