package ebb.api;

/**
 * A kind of seat in an application.
 *
 * @param id as rules name it, unless the application's settings call it otherwise
 * @param total how many there are; null if there is no limit
 * @param off how many are taken by accounts that are suspended, as far as Ebb has seen
 * @param price a month; null where it is not said
 */
public record SeatView(String id, String name, Long total, long taken, long off, PriceView price) {}
