package ebb.api;

import java.util.List;

/**
 * What is under way, and what waits for somebody.
 *
 * @param errands the most urgent first
 */
public record NowView(
    long changesUnderWay,
    long changesRefused,
    long setsToRelease,
    long setsStopped,
    long noticesWaiting,
    long noticesUndeliverable,
    long departuresRunning,
    long departuresToLookAt,
    long peopleToWake,
    List<ErrandView> errands) {}
