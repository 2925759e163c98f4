package ebb.api;

import java.time.Instant;

/**
 * How far an emergency stop has come in one application.
 *
 * @param signIn shut, being shut, or refused
 * @param signInShutAt when that was seen; null if it was so before, or is not so yet
 * @param waysIn sessions, tokens and the like: shut, being shut, refused, or not known where the
 *     application cannot say
 * @param waysInShutAt when that was seen; null if it is not so yet
 * @param problem why it is not shut yet; null if nothing is known against it
 */
public record EmergencyAccountView(
    String application,
    String name,
    String signIn,
    Instant signInShutAt,
    String waysIn,
    Instant waysInShutAt,
    ProblemView problem) {}
