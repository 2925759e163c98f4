package ebb.bench;

/**
 * At what size a benchmark is run, and how often.
 *
 * @param n how large the data are
 * @param warmUps rounds before those that count, until code is compiled and disks are warm
 * @param pairs rounds that count
 * @param less a much smaller size, run in each round as well and taken off, so that what is fixed
 *     weighs as little as in a run of ten times the size; 0 for none
 */
record Trial(int n, int warmUps, int pairs, int less) {
  /** A round of all that is compared. */
  interface Round {
    /**
     * @param number unlike that of any other round
     * @return seconds or milliseconds of each, always in the same order
     */
    double[] took(int number, int n) throws Exception;
  }

  static Trial of(int n, int warmUps, int pairs) {
    return new Trial(n, warmUps, pairs, 0);
  }

  Trial less(int size) {
    return new Trial(n, warmUps, pairs, size);
  }

  /** Runs all rounds, and gives the median of each of what they compare. */
  double[] medians(String name, Round round) throws Exception {
    double[][] all = null;
    int number = 0;
    for (int i = -warmUps; i < pairs; i++) {
      var took = round.took(number++, n);
      if (less > 0) {
        var fixed = round.took(number++, less);
        for (int k = 0; k < took.length; k++) {
          took[k] -= fixed[k];
        }
      }
      System.err.print(name);
      all = all == null ? new double[took.length][pairs] : all;
      for (int k = 0; k < took.length; k++) {
        System.err.printf(" %.3f", took[k]);
        if (i >= 0) {
          all[k][i] = took[k];
        }
      }
      System.err.println(i < 0 ? " (to warm up)" : "");
    }
    var medians = new double[all.length];
    for (int k = 0; k < medians.length; k++) {
      medians[k] = Measured.median(all[k]);
    }
    return medians;
  }
}
