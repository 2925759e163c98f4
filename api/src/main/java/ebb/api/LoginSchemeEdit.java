package ebb.api;

import java.util.List;
import java.util.Set;

/**
 * Another way of making logins, for whoever comes or is renamed from now on.
 *
 * @param expressions CEL over a person, in order; null or empty for the usual given.family
 * @param longest characters; null for twenty
 * @param reserved null for none
 * @param restDays for which the names of whoever was forgotten are given to nobody else; null for a
 *     year
 * @param reason goes into the journal
 */
public record LoginSchemeEdit(
    List<String> expressions,
    Integer longest,
    Set<String> reserved,
    Integer restDays,
    String reason) {}
