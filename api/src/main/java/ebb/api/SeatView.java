package ebb.api;

/**
 * A kind of seat in an application.
 *
 * @param id as rules name it, unless the application's settings call it otherwise
 * @param total how many there are; null if there is no limit
 */
public record SeatView(String id, String name, Long total, long taken) {}
