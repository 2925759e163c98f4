package ebb.api;

import java.util.List;

/**
 * A group: those of one name are one, in whichever applications it is.
 *
 * @param accounts in it, in all of them
 * @param given those of them that Ebb put there
 * @param rules that give it
 * @param risk how much harm whoever is in it can do; null if nobody said
 * @param scope what it opens, in words; null if nobody said
 * @param most accounts in use that may be in it, in one application; null for any number
 */
public record NamedGroupView(
    String name,
    List<String> applications,
    long accounts,
    long given,
    List<String> rules,
    String risk,
    String scope,
    Integer most) {}
