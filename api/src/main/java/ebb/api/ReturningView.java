package ebb.api;

import java.util.List;

/**
 * What the end of their suspensions would bring somebody.
 *
 * @param back applications in which an account is in use again
 * @param otherwise what is not as it was before, in words
 * @param staysOff why accounts stay off nevertheless; null if none does
 */
public record ReturningView(
    long person, String displayName, List<String> back, List<String> otherwise, String staysOff) {}
