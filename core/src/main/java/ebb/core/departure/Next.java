package ebb.core.departure;

import ebb.core.application.Level;
import ebb.core.handover.Sheet;
import java.time.LocalDate;
import java.util.List;

/** What is to be done next with one account of a departure. */
public enum Next {
  /** It is still in use: a change switches it off. */
  WAIT_UNTIL_OFF,
  TAKE_STOCK,
  HAND_OVER,
  /** A handover is under way: how far it is, and at its end the proof. */
  FOLLOW_HANDOVER,
  /** Something stands before its removal, or it can still be restored. */
  WAIT,
  /** All is open, and from now on only its restoring is waited for. */
  OPEN_WINDOW,
  /** All is open, and it stays suspended, as is said of its application. */
  STAY,
  /** All is open: it is deleted or stripped, as is said of its application. */
  REMOVE;

  /**
   * @param gates of this account on this day
   */
  public static Next of(
      Departure departure, AccountCase account, List<Gate> gates, LocalDate today) {
    if (account.level() != Level.SUSPENDED) {
      return WAIT_UNTIL_OFF;
    }
    if (account.ownsNothing() != null || !account.canTellOwnership()) {
      return end(account, gates, today);
    }
    if (account.sheet() == null) {
      return TAKE_STOCK;
    }
    return switch (account.handover()) {
      case NONE ->
          mayHandOver(departure, account, gates, today) ? HAND_OVER : end(account, gates, today);
      case RUNNING -> FOLLOW_HANDOVER;
      case PROVEN -> end(account, gates, today);
      case FAILED -> WAIT;
    };
  }

  /** Under a hold nothing is moved either. */
  private static boolean mayHandOver(
      Departure departure, AccountCase account, List<Gate> gates, LocalDate today) {
    return gates.stream()
            .filter(gate -> gate.name().equals("hold") || gate.name().equals("paused"))
            .allMatch(Gate::isOpen)
        && !today.isBefore(departure.handOverFrom())
        && account.recipient() != null
        && account.sheet().lines().values().stream().anyMatch(Sheet.Line::canBeHandedOver);
  }

  private static Next end(AccountCase account, List<Gate> gates, LocalDate today) {
    if (!gates.stream().allMatch(Gate::isOpen)) {
      return WAIT;
    }
    if (account.removal().ending() == Removal.Ending.KEEP) {
      return STAY;
    }
    if (account.restorableUntil() == null) {
      return account.removal().restoreDays() > 0 ? OPEN_WINDOW : REMOVE;
    }
    return today.isAfter(account.restorableUntil()) ? REMOVE : WAIT;
  }
}
