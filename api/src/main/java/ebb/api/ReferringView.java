package ebb.api;

import java.util.List;

/**
 * What refers to somebody's account in an application, as it says now.
 *
 * @param count null where that is not known
 * @param some the first of them, in words
 * @param follow whether they hold the account's name, and are carried along when it is renamed
 * @param problem why it is not known; null where it is, or where the application has no words for
 *     it
 */
public record ReferringView(
    String application, Integer count, List<String> some, boolean follow, ProblemView problem) {}
