package ebb.api;

import java.time.LocalDate;

/** A person in a list. */
public record PersonSummary(
    long id,
    String displayName,
    String login,
    String employeeNumber,
    String department,
    String title,
    String userType,
    String stage,
    LocalDate startDate,
    LocalDate endDate) {}
