package ebb.store.departures;

import ebb.core.application.References.Reference;
import ebb.core.departure.AccountCase;
import ebb.core.departure.AccountCase.Handover;
import ebb.core.handover.Sheet;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * One account of a departure, and how far its handover has come.
 *
 * @param sheet null until stock is taken
 * @param references null until asked
 * @param transfer the application's number of the transfer under way; null if none
 * @param attempt from 0; each retry of a failed handover is a new one
 * @param waivers gate to who waived it, and why; an approval among them
 * @param endAsked whether the change that deletes or strips it exists
 * @param stays whether nothing is left to do: it stays suspended, as its application's policy says
 * @param restorableUntil the last day on which it can be restored; null before that begins
 * @param shutSince gate to the day on which it was found shut first, of those that are
 * @param nextLook not looked at again before this machine time
 */
public record DepartureAccount(
    long id,
    long departure,
    long account,
    String application,
    LocalDate deleteFrom,
    Sheet sheet,
    List<Reference> references,
    Handover handover,
    String transfer,
    int attempt,
    Instant provenAt,
    Problem problem,
    Map<String, String> waivers,
    boolean endAsked,
    boolean stays,
    LocalDate restorableUntil,
    Map<String, LocalDate> shutSince,
    Instant nextLook,
    long version) {

  public static DepartureAccount begun(
      long id, long departure, long account, String application, LocalDate deleteFrom) {
    return new DepartureAccount(
        id,
        departure,
        account,
        application,
        deleteFrom,
        null,
        null,
        Handover.NONE,
        null,
        0,
        null,
        null,
        Map.of(),
        false,
        false,
        null,
        Map.of(),
        Instant.EPOCH,
        0);
  }

  public DepartureAccount stock(Sheet sheet) {
    return with(sheet, references, handover, transfer, attempt, provenAt, null, endAsked, nextLook);
  }

  public DepartureAccount references(List<Reference> references) {
    return with(
        sheet, references, handover, transfer, attempt, provenAt, problem, endAsked, nextLook);
  }

  public DepartureAccount started(String transfer) {
    return with(
        sheet, references, Handover.RUNNING, transfer, attempt, null, null, endAsked, nextLook);
  }

  public DepartureAccount proven(Instant at) {
    return with(
        sheet, references, Handover.PROVEN, transfer, attempt, at, null, endAsked, nextLook);
  }

  public DepartureAccount failed(Problem problem) {
    return with(
        sheet, references, Handover.FAILED, null, attempt, null, problem, endAsked, nextLook);
  }

  /**
   * A retry takes stock anew, as something may have been moved by hand meanwhile; who approved saw
   * another sheet.
   */
  public DepartureAccount retried() {
    var others = new HashMap<>(waivers);
    others.remove(AccountCase.APPROVAL);
    return with(null, null, Handover.NONE, null, attempt + 1, null, null, endAsked, Instant.EPOCH)
        .with(deleteFrom, others, stays, restorableUntil, shutSince, Instant.EPOCH);
  }

  public DepartureAccount troubled(Problem problem) {
    return with(
        sheet, references, handover, transfer, attempt, provenAt, problem, endAsked, nextLook);
  }

  public DepartureAccount askedEnd(boolean asked) {
    return with(sheet, references, handover, transfer, attempt, provenAt, problem, asked, nextLook);
  }

  public DepartureAccount lookAgain(Instant at) {
    return with(sheet, references, handover, transfer, attempt, provenAt, problem, endAsked, at);
  }

  public DepartureAccount waived(String gate, String reason) {
    var more = new HashMap<>(waivers);
    more.put(gate, reason);
    return with(deleteFrom, more, stays, restorableUntil, shutSince, Instant.EPOCH);
  }

  /** Looked at again soon. */
  public DepartureAccount deletedFrom(LocalDate day) {
    return with(day, waivers, stays, restorableUntil, shutSince, Instant.EPOCH);
  }

  /** Nothing is left to be done. */
  public DepartureAccount staying() {
    return with(deleteFrom, waivers, true, restorableUntil, shutSince, nextLook);
  }

  /** All is open: it can be restored up to a day, and is deleted after it. */
  public DepartureAccount restorableUntil(LocalDate day) {
    return with(deleteFrom, waivers, stays, day, shutSince, nextLook);
  }

  /** Which gates were found shut; since when is kept of those that were so before. */
  public DepartureAccount shut(Set<String> gates, LocalDate today) {
    var since = new TreeMap<String, LocalDate>();
    gates.forEach(gate -> since.put(gate, shutSince.getOrDefault(gate, today)));
    return with(deleteFrom, waivers, stays, restorableUntil, since, nextLook);
  }

  /** What operators and procedures say of it. */
  private DepartureAccount with(
      LocalDate deleteFrom,
      Map<String, String> waivers,
      boolean stays,
      LocalDate restorableUntil,
      Map<String, LocalDate> shutSince,
      Instant nextLook) {
    return new DepartureAccount(
        id,
        departure,
        account,
        application,
        deleteFrom,
        sheet,
        references,
        handover,
        transfer,
        attempt,
        provenAt,
        problem,
        waivers,
        endAsked,
        stays,
        restorableUntil,
        shutSince,
        nextLook,
        version);
  }

  /** How far it has come. */
  private DepartureAccount with(
      Sheet sheet,
      List<Reference> references,
      Handover handover,
      String transfer,
      int attempt,
      Instant provenAt,
      Problem problem,
      boolean endAsked,
      Instant nextLook) {
    return new DepartureAccount(
        id,
        departure,
        account,
        application,
        deleteFrom,
        sheet,
        references,
        handover,
        transfer,
        attempt,
        provenAt,
        problem,
        waivers,
        endAsked,
        stays,
        restorableUntil,
        shutSince,
        nextLook,
        version);
  }
}
