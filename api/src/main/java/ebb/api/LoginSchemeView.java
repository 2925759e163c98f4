package ebb.api;

import java.time.Instant;
import java.util.List;
import java.util.SortedSet;

/**
 * How the names are made by which people sign in.
 *
 * @param name login: one scheme serves all applications
 * @param expressions CEL over a person, in order; the first that gives a free name is taken; empty
 *     for the usual given.family
 * @param longest characters of a name
 * @param reserved names nobody is given, beside the mailboxes that every domain has
 * @param restDays for which the names of whoever was forgotten are given to nobody else
 * @param version grows with each that is set; 0 for the usual one that nobody set
 * @param setBy null where nobody set it
 */
public record LoginSchemeView(
    String name,
    List<String> expressions,
    int longest,
    SortedSet<String> reserved,
    int restDays,
    int version,
    String setBy,
    Instant setAt) {}
