package ebb.api;

import java.time.LocalDate;

/** A person in a list. */
public record PersonSummary(
    long id,
    String displayName,
    String login,
    String department,
    String userType,
    String stage,
    LocalDate startDate,
    LocalDate endDate) {}
