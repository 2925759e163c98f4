package ebb.core.problem;

import java.util.List;
import java.util.stream.Collectors;

/** Thrown where a request cannot be carried out; holds all problems found, not the first. */
public final class Refusal extends RuntimeException {
  /** What a caller may do about it; each kind has one HTTP status and one exit code. */
  public enum Kind {
    INVALID,
    NOT_FOUND,
    CONFLICT,
    STALE,
    STOPPED,
    TOO_LARGE,
    MEDIA_TYPE,
    FORBIDDEN,
    UNKNOWN_CALLER,
    TOO_OFTEN,
    UNAVAILABLE
  }

  private final Kind kind;
  private final List<Problem> problems;

  public Refusal(Kind kind, List<Problem> problems) {
    super(problems.stream().map(Problem::what).collect(Collectors.joining("; ")));
    this.kind = kind;
    this.problems = List.copyOf(problems);
  }

  public Refusal(Kind kind, Problem problem) {
    this(kind, List.of(problem));
  }

  public static Refusal invalid(Problem problem) {
    return new Refusal(Kind.INVALID, problem);
  }

  public static Refusal notFound(String thing, Object key, String remedy) {
    return new Refusal(
        Kind.NOT_FOUND,
        new Problem(
            "not-found",
            "There is no %s %s.".formatted(thing, key),
            "It never existed, or its number was mistyped.",
            remedy,
            null));
  }

  public static Refusal conflict(Problem problem) {
    return new Refusal(Kind.CONFLICT, problem);
  }

  public Kind kind() {
    return kind;
  }

  public List<Problem> problems() {
    return problems;
  }
}
