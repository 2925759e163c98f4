package ebb.api;

/**
 * A person's new names.
 *
 * @param givenName null to leave it
 * @param familyName null to leave it
 * @param displayName by which others see them; null for the one that follows from the names
 * @param login by which they are to sign in, whatever their name; null for the one that follows
 */
public record RenameRequest(
    String givenName, String familyName, String displayName, String login) {}
