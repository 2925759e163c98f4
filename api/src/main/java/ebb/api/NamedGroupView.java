package ebb.api;

import java.util.List;

/**
 * A group: those of one name are one, in whichever applications it is.
 *
 * @param accounts in it, in all of them
 * @param given those of them that Ebb put there
 * @param rules that give it
 */
public record NamedGroupView(
    String name, List<String> applications, long accounts, long given, List<String> rules) {}
