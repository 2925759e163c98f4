package ebb.api;

/**
 * A condition in all its forms.
 *
 * @param sentence as it is read aloud
 */
public record ConditionView(String cel, ConditionPart built, String sentence) {}
