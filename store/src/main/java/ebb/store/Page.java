package ebb.store;

import java.util.List;

/**
 * Part of a list.
 *
 * @param next where the next page begins; null at the end
 */
public record Page<T>(List<T> items, String next) {}
