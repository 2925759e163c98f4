package ebb.api;

import java.util.List;

/**
 * Somebody whose account one may be.
 *
 * @param why in what they are alike, or which rule says so
 * @param account the number of the account they have there already; null if none
 * @param accountName its name; null if they have none
 */
public record CandidateView(
    long person,
    String displayName,
    String department,
    List<String> why,
    Long account,
    String accountName) {}
