package ebb.api;

/**
 * What whoever pushes to a feed needs.
 *
 * @param token shown this once
 * @param address of the SCIM interface
 */
public record FeedTokenView(String source, String token, String address) {}
