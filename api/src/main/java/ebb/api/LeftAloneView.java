package ebb.api;

import java.time.Instant;

/** That an account is left as it is, and who said so. */
public record LeftAloneView(String why, String by, Instant at) {}
