package ebb.api;

import java.util.List;

/**
 * What a look at an application found. Nothing was written there.
 *
 * @param aheadSeconds how far its clock is ahead of ours; null if it does not say what time it is
 * @param page how many accounts it sends at most at once; 0 if it does not say
 * @param settlesSeconds how long after a write reads may still show what was before
 */
public record InspectionView(
    List<TriedView> tried,
    List<PartView> parts,
    List<SchemaAttributeView> attributes,
    Long aheadSeconds,
    int page,
    long settlesSeconds) {

  /**
   * One thing that was tried.
   *
   * @param what as it follows "Ebb can": list accounts
   * @param problem null if it works
   * @param without what one has to live with while it does not; empty if it works
   */
  public record TriedView(String what, ProblemView problem, String without) {}

  /**
   * Something applications may be able to do.
   *
   * @param without what one has to live with where it is not offered
   */
  public record PartView(String part, boolean isOffered, String without) {}

  /**
   * An attribute that can be filled.
   *
   * @param isRequired whether no account is made without it
   * @param equality which spellings it takes for the same: exact, ignore-case, telephone or folded
   * @param suggested an expression that would fill it; null if nothing here goes by that name
   */
  public record SchemaAttributeView(
      String name, boolean isRequired, String equality, String suggested) {}
}
