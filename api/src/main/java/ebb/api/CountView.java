package ebb.api;

/** How many changes of one kind in one application stand where. */
public record CountView(String application, String kind, String state, long count) {}
