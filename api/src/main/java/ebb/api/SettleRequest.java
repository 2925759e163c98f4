package ebb.api;

import java.util.Set;

/**
 * What to do about findings of one kind.
 *
 * @param ids by which they are chosen; null for all of the kind
 * @param reason of leaving them alone
 * @param attributes of which the values are taken
 * @param userType of which kind adopted people are; null if that is not to be said
 * @param suspended whether adopted people are switched off at once
 */
public record SettleRequest(
    Set<Long> ids, String reason, Set<String> attributes, String userType, boolean suspended) {}
