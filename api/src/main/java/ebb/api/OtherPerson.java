package ebb.api;

/** Another record of a person. */
public record OtherPerson(long other) {}
