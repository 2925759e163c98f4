package ebb.api;

import java.util.List;

/**
 * Defines an attribute of the organisation's own.
 *
 * @param type text, number, date, yes-no or choice
 * @param fallback what a new person gets where nothing is said; null for nothing
 * @param choices the values of a choice
 */
public record AttributeEdit(
    String type,
    boolean required,
    String fallback,
    boolean searchable,
    boolean byHand,
    List<String> choices) {}
