package ebb.api;

/**
 * A group of an account.
 *
 * @param ground rule or grant; null where the application alone has it
 * @param held whether the account is in it, as last seen
 */
public record HeldGroupView(String group, String ground, boolean held) {}
