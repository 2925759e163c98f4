package ebb.api;

import java.util.List;

/**
 * Releases a change set, or a part of it; the rest stays shown.
 *
 * @param reason lets a guard stop pass; null where there is none
 * @param first only so many people, in the order in which they are shown; null for all
 * @param people only these; null for all
 */
public record ReleaseRequest(String reason, Integer first, List<Long> people) {}
