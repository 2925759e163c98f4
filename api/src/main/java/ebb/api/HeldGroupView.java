package ebb.api;

/**
 * A group or a seat of an account.
 *
 * @param ground rule or grant; null where the application alone has it
 * @param held whether the account is in it, as last seen
 * @param through the group the account is in that is within this one; null where it is in it itself
 * @param risk "low", "high" or "full"; null if nobody said how much harm it lets one do
 * @param opens what it lets one do, in words; null if nobody said
 */
public record HeldGroupView(
    String group, String ground, boolean held, String through, String risk, String opens) {}
