package ebb.api;

import java.time.Instant;

/**
 * Why some changes wait or were refused.
 *
 * @param nextTry when they are tried again; null if they are not
 */
public record TroubleView(
    String application, String state, ProblemView problem, long count, Instant nextTry) {}
