package ebb.core.forecast;

import ebb.core.person.Stage;
import ebb.core.rule.Desired;
import java.time.Instant;

/** What each application should hold for somebody from an instant on, until their next one. */
public record Moment(Instant at, Stage stage, Desired desired) {}
