package ebb.api;

/** What could not be taken along, and why. */
public record LeftOutView(long id, String name, ProblemView problem) {}
