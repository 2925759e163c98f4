package ebb.api;

import java.time.Instant;

/**
 * A way in to an account, beside signing in, that was open when its application was asked.
 *
 * @param id in its application
 * @param kind token, device password, forwarding rule and the like; technical identity or second
 *     account where it is an account of its own, which is not shut but given to somebody else
 * @param what in words
 * @param person whose account it is; null where it is none, or nobody's
 * @param waivedBy who said that it may stay open; null if nobody did
 * @param reason why it may; null if nobody said so
 */
public record WayView(
    String id,
    String kind,
    String what,
    Long person,
    Instant foundAt,
    String waivedBy,
    Instant waivedAt,
    String reason) {}
