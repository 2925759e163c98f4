package ebb.api;

/**
 * A condition, as CEL or as it was built.
 *
 * @param cel null where it was built
 * @param built null where it is CEL
 * @param after the person after whom to go on counting; null to begin
 */
public record ConditionRequest(String cel, ConditionPart built, Long after) {}
