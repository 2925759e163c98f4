package ebb.cli;

import ebb.api.ProgressView;
import java.util.Locale;

/** Long work of the service, in a line that is written over and over. */
final class Progressing {
  /**
   * @param what is counted, in the plural
   */
  static String words(ProgressView progress, String what) {
    var count =
        progress.of() > 0
            ? String.format(Locale.ROOT, ": %,d of %,d %s", progress.done(), progress.of(), what)
            : progress.done() > 0
                ? String.format(Locale.ROOT, ": %,d %s so far", progress.done(), what)
                : "";
    var left =
        progress.secondsLeft() == null
            ? ""
            : String.format(Locale.ROOT, ", about %,d s more", progress.secondsLeft());
    return progress.doing() + count + left + " …";
  }

  private Progressing() {}
}
