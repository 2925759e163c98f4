package ebb.api;

import java.util.List;

/**
 * A part of a condition that is built without knowing CEL.
 *
 * @param kind all, any, not, is, or other for CEL that cannot be built
 * @param of the parts of all and any; the one of not
 * @param attribute of a comparison, as in name.familyName
 * @param comparison equal, unequal, one-of, begins, ends, contains, at-least, before or set
 * @param values what is compared with; none for set, several for one-of
 * @param cel of other
 */
public record ConditionPart(
    String kind,
    List<ConditionPart> of,
    String attribute,
    String comparison,
    List<String> values,
    String cel) {}
