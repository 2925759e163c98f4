package ebb.core.forecast;

import ebb.core.change.Step;
import java.time.Instant;

/** A step that will be due at an instant, if no input changes before. */
public record Coming(Instant at, String application, Step step) {}
