package ebb.api;

import java.time.Instant;

/** Who stopped the work, why and when. */
public record PauseView(String by, String why, Instant at) {}
