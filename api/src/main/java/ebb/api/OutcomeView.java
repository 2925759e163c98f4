package ebb.api;

import java.util.List;

/**
 * What a set does to one person, over all applications.
 *
 * @param known false for somebody new, who is in no list before the release
 */
public record OutcomeView(
    long person, String displayName, boolean known, List<ChangeView> changes) {}
