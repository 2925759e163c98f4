package ebb.api;

import java.time.Instant;
import java.util.List;

/**
 * One account, or one that is missing, about which an application and Ebb do not agree.
 *
 * @param id by which it is chosen: the person's number where it is about somebody's account, the
 *     account's where it is about one of nobody, or one left as it is
 * @param account null where it is missing
 * @param person null where it is nobody's
 * @param since since when it is known; when it was last seen, where that is not
 * @param differences none where it is nobody's
 * @param likely whose it may be, likeliest first
 */
public record FindingView(
    long id,
    AccountView account,
    Long person,
    String displayName,
    Instant since,
    List<DifferenceView> differences,
    List<CandidateView> likely) {}
