package ebb.api;

import java.time.LocalDate;
import java.util.Map;

/**
 * A person in a list.
 *
 * @param suspended whether they are kept out of everything today
 * @param own values of the organisation's own attributes
 */
public record PersonSummary(
    long id,
    String displayName,
    String login,
    String employeeNumber,
    String department,
    String title,
    String userType,
    String stage,
    boolean suspended,
    LocalDate startDate,
    LocalDate endDate,
    Map<String, String> own) {}
