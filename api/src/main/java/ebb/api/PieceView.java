package ebb.api;

/**
 * One thing an account of a departure owned when stock was taken.
 *
 * @param state owned, arrived, failed, left out or gone
 * @param sha256 of its content, in hex; empty while nobody read it
 * @param recipient the name of whoever has it; null until it has arrived
 * @param place where it is found at the recipient's; null until it is there
 * @param problem why it could not be handed over; null otherwise
 * @param carried whether Ebb hands over its kind itself: then it can be opened, and left out
 * @param leftOut who left it out, and why; null otherwise
 */
public record PieceView(
    String id,
    String kind,
    String name,
    long bytes,
    String sha256,
    String state,
    String recipient,
    String place,
    ProblemView problem,
    boolean carried,
    String leftOut) {}
