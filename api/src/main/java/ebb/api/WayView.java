package ebb.api;

import java.time.Instant;

/**
 * A way in to an account, beside signing in, that was open when its application was asked.
 *
 * @param id in its application
 * @param kind token, device password, forwarding rule and the like
 * @param what in words
 * @param waivedBy who said that it may stay open; null if nobody did
 * @param reason why it may; null if nobody said so
 */
public record WayView(
    String id,
    String kind,
    String what,
    Instant foundAt,
    String waivedBy,
    Instant waivedAt,
    String reason) {}
