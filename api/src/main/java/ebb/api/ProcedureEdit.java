package ebb.api;

/**
 * How departures of a kind of people are to go; days from the last day.
 *
 * @param replyText what answers by itself whoever writes to them, as in ProcedureView; null for
 *     nothing
 * @param replyDays for how many days; null for 90
 * @param forgetDays days from the end of a departure until what is known of the person is forgotten
 *     for good; null for never
 */
public record ProcedureEdit(
    int handOverDays,
    int waitDays,
    boolean asksReturn,
    String replyText,
    Integer replyDays,
    Integer forgetDays) {}
