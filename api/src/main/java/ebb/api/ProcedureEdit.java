package ebb.api;

/** How departures of a kind of people are to go; days from the last day. */
public record ProcedureEdit(int handOverDays, int waitDays, boolean asksReturn) {}
