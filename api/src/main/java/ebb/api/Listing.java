package ebb.api;

import java.util.List;

/**
 * Part of a list.
 *
 * @param next cursor of the next page; null at the end
 * @param total how many there are in all; null where counting would take long
 */
public record Listing<T>(List<T> items, String next, Long total) {}
