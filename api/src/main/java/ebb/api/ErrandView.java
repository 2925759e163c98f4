package ebb.api;

import java.time.Instant;

/**
 * Something that needs an operator, or is under way.
 *
 * @param urgency 1 for what is stopped or broken, 2 for what waits, 3 for what runs by itself
 * @param kind change-set, import, departure, application, feed or notice: where to go
 * @param key number or name of that
 * @param what in words
 * @param detail in words; null where there is nothing to add
 * @param action what to do there, in a word or two
 * @param since null where that is not known
 */
public record ErrandView(
    int urgency,
    String kind,
    String key,
    String what,
    String detail,
    String action,
    Instant since) {}
