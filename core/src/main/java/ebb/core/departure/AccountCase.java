package ebb.core.departure;

import ebb.core.application.Level;
import ebb.core.application.References.Reference;
import ebb.core.handover.Sheet;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * All that decides whether one account of a departure may come to its end.
 *
 * @param ownsNothing why accounts here own nothing, as an administrator declared it; null if not
 * @param canTellOwnership whether the application can say what an account owns
 * @param canTellReferences whether it can say what refers to an account
 * @param sheet null until stock is taken
 * @param references null until asked
 * @param recipient who gets what it owns; null while nobody is named
 * @param handover where the handover stands
 * @param problem why the handover or the stock-taking failed; null otherwise
 * @param waivers gate to who waived it, and why; an approval among them
 * @param waysIn what its application says is still open: off, still open, being asked, not known
 * @param stays whether it stays suspended for good, and nothing is left to do
 * @param restorableUntil the last day on which it can be restored; null while a gate was never open
 */
public record AccountCase(
    String application,
    Level level,
    String ownsNothing,
    boolean canTellOwnership,
    boolean canTellReferences,
    Sheet sheet,
    List<Reference> references,
    String recipient,
    Handover handover,
    Instant provenAt,
    Problem problem,
    Map<String, String> waivers,
    LocalDate deleteFrom,
    String waysIn,
    boolean stays,
    Removal removal,
    LocalDate restorableUntil) {
  /** What an approval by a second person is called among the waivers. */
  public static final String APPROVAL = "approval";

  /** Whether so much goes with it that a second person is asked. */
  public boolean asksApproval() {
    return removal.ending() != Removal.Ending.KEEP
        && sheet != null
        && sheet.count() > removal.alone();
  }

  /** Whether somebody decided something about this account: who did is named first. */
  public boolean isDecidedBy(String name) {
    return waivers.values().stream().anyMatch(by -> by.startsWith(name + ": "));
  }

  public enum Handover {
    NONE,
    RUNNING,
    PROVEN,
    FAILED
  }
}
