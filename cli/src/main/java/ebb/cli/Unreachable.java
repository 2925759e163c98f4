package ebb.cli;

/** A service that did not answer: whatever else was to be asked need not be tried. */
final class Unreachable extends Failure {
  Unreachable(String url, Exception e) {
    super(
        "Ebb cannot be reached at " + url + ".",
        e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage(),
        "Start it with: ebb server; or set EBB_URL to where it runs.");
  }
}
