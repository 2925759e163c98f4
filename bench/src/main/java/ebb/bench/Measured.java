package ebb.bench;

import java.util.Arrays;
import java.util.Locale;

/**
 * A benchmark's result: medians over pairs of runs.
 *
 * @param limit the most the ratio may be
 * @param unit of ebb and baseline
 * @param n how large the data were, or how many pairs were run
 */
record Measured(String name, double ebb, double baseline, double limit, String unit, long n) {
  static double median(double[] values) {
    var sorted = values.clone();
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  double ratio() {
    return ebb / baseline;
  }

  String json() {
    return String.format(
        Locale.ROOT,
        "{\"name\":\"%s\",\"ratio\":%.3f,\"limit\":%.1f,\"unit\":\"%s\",\"n\":%d,\"ebb\":%.3f,\"baseline\":%.3f}",
        name,
        ratio(),
        limit,
        unit,
        n,
        ebb,
        baseline);
  }

  String line() {
    return String.format(
        Locale.ROOT,
        "%-18s %10.2f %10.2f %-2s %8.2f %6.2f %,11d  %s",
        name,
        baseline,
        ebb,
        unit,
        ratio(),
        limit,
        n,
        ratio() <= limit ? "" : "above its limit");
  }

  static String heading() {
    return String.format(
        "%-18s %10s %10s %-2s %8s %6s %11s", "NAME", "BARE", "EBB", "", "RATIO", "LIMIT", "N");
  }
}
