package ebb.api;

/**
 * Two records that may be one person.
 *
 * @param alike the second of them, beside the first
 */
public record DuplicateView(long id, String displayName, String stage, AlikeView alike) {}
