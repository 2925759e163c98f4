package ebb.store.applications;

import ebb.core.person.PersonId;
import java.util.List;

/**
 * Whose an account of nobody may be.
 *
 * @param why in words: the rule, or in what they are alike
 * @param hasOne whether they have another account there
 */
public record Likely(PersonId person, List<String> why, boolean hasOne) {}
