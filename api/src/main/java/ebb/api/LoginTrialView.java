package ebb.api;

/**
 * What somebody would be called who came now by a name that is known.
 *
 * @param login by which they sign in, and go on to; null if by none
 * @param wouldBe what the scheme would give them
 */
public record LoginTrialView(long person, String displayName, String login, String wouldBe) {}
