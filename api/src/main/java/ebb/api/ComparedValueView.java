package ebb.api;

/** A value on two sides; empty where a side has none. */
public record ComparedValueView(String attribute, String left, String right) {}
