package ebb.api;

import java.util.List;

/**
 * Why a person has an account in an application, or has none.
 *
 * @param account null while there is none
 * @param level what it should be; null where the person is not entitled
 * @param rule null where none entitles
 * @param condition of the rule
 * @param because one sentence
 */
public record WhyView(
    String application,
    AccountView account,
    String level,
    String rule,
    String condition,
    String because,
    List<HeldValueView> values,
    List<HeldGroupView> groups,
    List<HeldGroupView> seats) {}
