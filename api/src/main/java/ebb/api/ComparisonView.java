package ebb.api;

import java.util.List;

/**
 * Two populations, person by person. Each side is an application or a source.
 *
 * @param leftOfNobody accounts of the left side that are nobody's; 0 for a source
 * @param alikeOfNobody accounts of nobody in both that have one login
 * @param attributes those that both sides know, by name
 */
public record ComparisonView(
    String left,
    String right,
    long both,
    long leftOnly,
    long rightOnly,
    long leftOfNobody,
    long rightOfNobody,
    long alikeOfNobody,
    List<AgreementView> attributes) {}
