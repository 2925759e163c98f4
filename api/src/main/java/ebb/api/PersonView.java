package ebb.api;

import java.util.List;
import java.util.Map;

/** One person, whole. */
public record PersonView(
    long id,
    long version,
    String displayName,
    String stage,
    String login,
    List<String> aliases,
    Map<String, ValueView> attributes,
    List<AccountView> accounts,
    List<GrantView> grants,
    List<HoldView> holds,
    EmergencyStopView emergencyStop,
    List<SuspensionView> suspensions,
    List<ChangeView> changes) {}
