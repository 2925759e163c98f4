package ebb.api;

/**
 * What follows from a choice.
 *
 * @param changeSet shows what setting the value by hand would change; null where it holds already
 */
public record ConflictChoiceView(Long changeSet) {}
