package ebb.api;

import java.util.List;

/**
 * What can be said of a person.
 *
 * @param label what a column of it is called in templates
 * @param type text, number, date, yes-no, choice, email, phone, person or zone
 * @param fallback what a new person gets where nothing is said; null for nothing
 * @param searchable whether people can be filtered by it
 * @param byHand whether operators may say something else than its sources do: allowed, dated (up to
 *     a day they name) or forbidden
 * @param choices the values of a choice; empty for every other type
 * @param own defined by the organisation
 * @param version the ETag; 0 for a standard one that is set as usual
 */
public record AttributeView(
    String name,
    String label,
    String type,
    boolean required,
    String fallback,
    boolean searchable,
    String byHand,
    List<String> choices,
    boolean own,
    long version) {}
