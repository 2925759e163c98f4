package ebb.api;

/**
 * How departures of a kind of people go.
 *
 * @param kind of people; null for all others
 * @param handOverDays days from the last day until what an account owns is handed over
 * @param waitDays days from the last day until an account may be deleted
 * @param asksReturn whether somebody has to say that they are not coming back before anything is
 *     removed
 * @param replyText what answers by itself whoever writes to them: the subject in its first line,
 *     with {name}, {recipient}, {address} and {lastDay}; null for nothing
 * @param replyDays days from the last day for which it is sent; null for nothing
 * @param forgetDays days from the end of a departure until what is known of the person is forgotten
 *     for good; null for never
 */
public record ProcedureView(
    String kind,
    int handOverDays,
    int waitDays,
    boolean asksReturn,
    String replyText,
    Integer replyDays,
    Integer forgetDays) {}
