package ebb.api;

import java.util.List;

/**
 * Defines an attribute of the organisation's own; of a standard one only byHand can be set.
 *
 * @param type text, number, date, yes-no or choice
 * @param fallback what a new person gets where nothing is said; null for nothing
 * @param byHand allowed, dated or forbidden; null for allowed
 * @param choices the values of a choice
 */
public record AttributeEdit(
    String type,
    boolean required,
    String fallback,
    boolean searchable,
    String byHand,
    List<String> choices) {}
