package ebb.core.departure;

import ebb.core.change.ChangeKind;
import java.util.Locale;
import java.util.Optional;

/**
 * What becomes of an account at the end of a departure, as is said of its application, and how
 * removing goes there.
 *
 * @param restoreDays for how many days it can still be restored once all its gates are open; the
 *     same everywhere, whatever the application itself can bring back. 0 for none
 * @param alone how many things an account may have owned for its end to need no second person
 * @param refused how many removals in a row, the last ones of a day, the application refused
 */
public record Removal(Ending ending, int restoreDays, long alone, int refused) {
  public static final Removal AT_ONCE = new Removal(Ending.DELETE, 0, Long.MAX_VALUE, 0);

  /** After so many refusals in a row the same would become of the others: they wait. */
  public static final int MOST_REFUSED = 3;

  public enum Ending {
    /** It stays suspended for good, as it is. */
    KEEP(null, "stays suspended"),
    /** It stays suspended, and nothing in it says whose it was. */
    STRIP(ChangeKind.STRIP, "is stripped of what is personal"),
    DELETE(ChangeKind.DELETE, "is deleted");

    private final ChangeKind kind;
    private final String words;

    Ending(ChangeKind kind, String words) {
      this.kind = kind;
      this.words = words;
    }

    /** The change that brings it about; empty where nothing changes. */
    public Optional<ChangeKind> kind() {
      return Optional.ofNullable(kind);
    }

    /** As they follow the account. */
    public String words() {
      return words;
    }

    /** As it stands in the settings of an application. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /**
     * @param word null for what holds where nothing is said
     * @throws IllegalArgumentException if there is none of that word
     */
    public static Ending of(String word) {
      return word == null ? DELETE : valueOf(word.toUpperCase(Locale.ROOT));
    }
  }
}
