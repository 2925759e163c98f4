package ebb.api;

/** What is under way, and what waits for somebody. */
public record NowView(
    long changesUnderWay,
    long changesRefused,
    long setsToRelease,
    long setsStopped,
    long noticesWaiting,
    long noticesUndeliverable,
    long departuresRunning,
    long departuresToLookAt,
    long peopleToWake) {}
