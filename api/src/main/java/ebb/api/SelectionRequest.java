package ebb.api;

import java.util.List;

/**
 * Several people.
 *
 * @param people at most 1,000
 */
public record SelectionRequest(List<Long> people) {}
