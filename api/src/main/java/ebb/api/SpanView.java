package ebb.api;

import java.time.Instant;

/** A time in which an account stands at one level. */
public record SpanView(Instant from, Instant to, String level) {}
