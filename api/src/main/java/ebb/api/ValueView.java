package ebb.api;

import java.time.Instant;

/** A value of a person, with the source that has authority over it. */
public record ValueView(String value, String source, Instant since) {}
