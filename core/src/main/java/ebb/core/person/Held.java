package ebb.core.person;

import java.time.Instant;

/** A value a person holds, with the source that has authority over it. */
public record Held(String value, String source, Instant since) {}
