package ebb.api;

import java.util.List;

/**
 * A group in an application.
 *
 * @param members how many accounts are in it
 * @param given how many of them Ebb put there
 * @param rules names of the rules that give it
 * @param leftAlone that it means nothing here; null if nobody said so
 * @param owners names of their accounts, or what the application calls them
 * @param inner groups that are members of it
 * @param strangers members that are neither accounts nor groups, the first hundred
 */
public record AppGroupView(
    String name,
    long members,
    long given,
    List<String> rules,
    LeftAloneView leftAlone,
    List<String> owners,
    List<String> inner,
    List<String> strangers) {}
