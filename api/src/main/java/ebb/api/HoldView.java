package ebb.api;

import java.time.LocalDate;

/** An order that nothing of a person may be removed. */
public record HoldView(long id, String reason, String setBy, LocalDate until) {}
