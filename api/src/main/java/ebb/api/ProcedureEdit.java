package ebb.api;

/**
 * How departures of a kind of people are to go; days from the last day.
 *
 * @param replyText what answers by itself whoever writes to them, as in ProcedureView; null for
 *     nothing
 * @param replyDays for how many days; null for 90
 */
public record ProcedureEdit(
    int handOverDays, int waitDays, boolean asksReturn, String replyText, Integer replyDays) {}
