package ebb.core.departure;

import ebb.core.application.Level;
import ebb.core.person.Hold;
import ebb.core.person.Stage;
import ebb.core.person.Suspension.Reason;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/**
 * Whether the removal of an account that is off may begin. What it owns and what refers to it is
 * tested after that, by its gates.
 */
public final class Eligibility {
  /** Whoever is kept out for one of these comes back, or is asked about. */
  private static final Set<Reason> KEPT = EnumSet.of(Reason.LEAVE, Reason.INQUIRY, Reason.SEASON);

  /**
   * What is known of an account.
   *
   * @param desired the level it is to have; empty if it is to have none
   * @param offSince null if it is not known
   * @param suspendedFor why an operator keeps its person out; empty if nobody does
   * @param underWay the departure that it belongs to; null if to none
   * @param leftAlone why it is left as it is; null if it is kept
   * @param stays why nothing would become of it; null if it would be deleted or stripped
   */
  public record Candidate(
      Level level,
      Optional<Level> desired,
      LocalDate offSince,
      Stage stage,
      Set<Reason> suspendedFor,
      Optional<Hold> hold,
      boolean technical,
      Long underWay,
      String leftAlone,
      String stays) {}

  /**
   * @param days for how long it has to be off
   * @return why it may not begin; empty if it may
   */
  public static Optional<String> against(Candidate account, int days, LocalDate today) {
    if (account.level() != Level.SUSPENDED) {
      return Optional.of("It is %s, not suspended.".formatted(account.level().word()));
    }
    if (account.underWay() != null) {
      return Optional.of("Departure %d takes care of it.".formatted(account.underWay()));
    }
    if (account.stays() != null) {
      return Optional.of("It stays: %s.".formatted(account.stays()));
    }
    return kept(account).or(() -> tooEarly(account, days, today));
  }

  private static Optional<String> kept(Candidate account) {
    if (account.leftAlone() != null) {
      return Optional.of("It is left as it is: %s.".formatted(account.leftAlone()));
    }
    if (account.technical()) {
      return Optional.of("It belongs to a technical identity.");
    }
    if (account.hold().isPresent()) {
      return Optional.of(
          "A hold set by %s is in force: %s."
              .formatted(account.hold().get().setBy(), account.hold().get().reason()));
    }
    if (account.stage() == Stage.AWAY || account.stage() == Stage.EXPECTED) {
      return Optional.of(
          account.stage() == Stage.AWAY ? "Its owner is on leave." : "Its owner is yet to come.");
    }
    return account.suspendedFor().stream()
        .filter(KEPT::contains)
        .findFirst()
        // The reason may be nobody's business.
        .map(_ -> "Its owner is kept out for a time, and may come back.")
        .or(() -> wanted(account));
  }

  private static Optional<String> wanted(Candidate account) {
    return account
        .desired()
        .filter(level -> level != Level.SUSPENDED)
        .map(_ -> "It is to be in use: a rule or a grant gives it.");
  }

  private static Optional<String> tooEarly(Candidate account, int days, LocalDate today) {
    if (account.offSince() == null) {
      return Optional.of(
          "Since when it is off is not known here; suspend it here, and days count from then.");
    }
    var from = account.offSince().plusDays(days);
    return today.isBefore(from)
        ? Optional.of(
            "It is off since %s, and may go from %s on.".formatted(account.offSince(), from))
        : Optional.empty();
  }

  private Eligibility() {}
}
