package ebb.api;

/**
 * How departures of a kind of people go.
 *
 * @param kind of people; null for all others
 * @param handOverDays days from the last day until what an account owns is handed over
 * @param waitDays days from the last day until an account may be deleted
 * @param asksReturn whether somebody has to say that they are not coming back before anything is
 *     removed
 */
public record ProcedureView(String kind, int handOverDays, int waitDays, boolean asksReturn) {}
