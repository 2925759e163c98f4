package ebb.api;

/**
 * Shuts a way in to a suspended account, or says why it may stay open.
 *
 * @param way its number in the application; null for all of them and every session, where that is
 *     asked to be shut
 * @param reason why it may stay open; not needed to shut it
 */
public record WayRequest(long account, String way, String reason) {}
