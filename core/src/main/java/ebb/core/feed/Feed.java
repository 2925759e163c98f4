package ebb.core.feed;

import ebb.core.imports.Missing;
import java.util.Locale;

/**
 * A standing source.
 *
 * @param source whose rows it brings; a source has one feed at most
 * @param complete whether each delivery names everybody
 * @param missing what somebody is whom a complete delivery does not name; undecided to be asked
 * @param version grows with every edit; 0 for one that is new
 */
public record Feed(
    String source,
    Origin origin,
    Timetable timetable,
    boolean complete,
    Missing.Decision missing,
    State state,
    long version) {
  public enum State {
    /** Not switched on yet: nothing comes in by itself. */
    DRAFT,
    ON,
    PAUSED;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  public Feed in(State state) {
    return new Feed(source, origin, timetable, complete, missing, state, version);
  }
}
