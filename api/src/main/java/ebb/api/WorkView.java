package ebb.api;

import java.util.SortedMap;

/**
 * Work in progress or due now, in this process and its database.
 *
 * @param total 0 if Ebb has nothing left to do until a date, a person or an application brings more
 * @param kinds how much of each kind, as in "changes"; kinds with none are left out
 */
public record WorkView(long total, SortedMap<String, Long> kinds) {}
