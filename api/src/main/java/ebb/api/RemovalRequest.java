package ebb.api;

import java.util.List;

/**
 * An order to remove accounts that are off.
 *
 * @param accounts by their numbers; null or empty for all whose removal may begin
 * @param first how many of them at most, a part to be looked at before the rest; null for all
 */
public record RemovalRequest(List<Long> accounts, Integer first, String reason) {}
