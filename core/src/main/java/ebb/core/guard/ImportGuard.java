package ebb.core.guard;

import ebb.core.person.Attributes;
import ebb.core.problem.Problem;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Stops an import that is too short, too old or too strange to be true. */
public final class ImportGuard {
  /**
   * What was found in a file.
   *
   * @param complete whether it should name everybody; otherwise its size says nothing
   * @param known people this source named before
   * @param rows in the file; 0 if it holds no list of people
   * @param strangers rows under keys never seen
   * @param withoutKey rows without a key
   * @param doubled rows under a key that stands there already
   * @param missing people known whom a complete file does not name, or of whom one says that they
   *     have gone
   * @param changed rows changed, by attribute
   */
  public record Found(
      boolean complete,
      long known,
      long rows,
      long strangers,
      long withoutKey,
      long doubled,
      long missing,
      Map<String, Long> changed) {}

  /**
   * How a file differs from those before it.
   *
   * @param usualRows the middle of the last readings; 0 where there were none
   * @param charsetBefore how the last one was written; null where there was none, or it has no such
   *     thing
   * @param sameAs the number of an earlier import with the same content, if another came after it;
   *     else null
   * @param writtenBefore when the last one was written; null if nobody knows
   */
  public record Beside(
      long usualRows,
      String charsetBefore,
      String charset,
      Long sameAs,
      Instant writtenBefore,
      Instant written) {
    public static final Beside NOTHING = new Beside(0, null, null, null, null, null);
  }

  private static final Set<String> NAMES =
      Set.of(Attributes.GIVEN_NAME, Attributes.FAMILY_NAME, Attributes.DISPLAY_NAME);

  private static final String LET_PASS =
      " If it is right, release it with a reason to let it pass.";

  private final String source;
  private final Found found;
  private final Limits limits;
  private final List<Problem> stops = new ArrayList<>();

  private ImportGuard(String source, Found found, Limits limits) {
    this.source = source;
    this.found = found;
    this.limits = limits;
  }

  /** A problem per limit that is passed; empty if the import may go on. */
  public static List<Problem> check(String source, Found found, Beside beside, Limits limits) {
    var guard = new ImportGuard(source, found, limits);
    guard.age(beside);
    guard.encoding(beside);
    guard.keys();
    if (found.known() >= limits.of(Limit.SMALL, source)) {
      found.changed().forEach(guard::changed);
      guard.missing();
      if (found.complete()) {
        guard.people();
        guard.size(beside);
      }
    }
    return List.copyOf(guard.stops);
  }

  private void age(Beside beside) {
    if (beside.sameAs() != null) {
      stop(
          "guard-file-seen-before",
          "It is word for word what import %d brought, and another came since."
              .formatted(beside.sameAs()),
          "What has changed since would be taken back.",
          "Ask for the file of today.");
    } else if (beside.written() != null
        && beside.writtenBefore() != null
        && beside.written().isBefore(beside.writtenBefore())) {
      stop(
          "guard-file-older",
          "It was written at %s, and the one before it at %s."
              .formatted(beside.written(), beside.writtenBefore()),
          "What has changed since would be taken back.",
          "Ask for the file of today.");
    }
  }

  private void keys() {
    if (found.rows() < limits.of(Limit.SMALL, source)) {
      return;
    }
    if (isOver(Limit.WITHOUT_KEY, found.withoutKey(), found.rows())) {
      stop(
          "guard-keys-emptied",
          "%,d of %,d rows have no key.".formatted(found.withoutKey(), found.rows()),
          "The limit is %s: more is usually a key column that was emptied."
              .formatted(words(Limit.WITHOUT_KEY)),
          "Look at the key column of the export.");
    }
    if (isOver(Limit.DOUBLED_KEYS, found.doubled(), found.rows())) {
      stop(
          "guard-keys-doubled",
          "%,d of %,d rows have a key that stands there already."
              .formatted(found.doubled(), found.rows()),
          "The limit is %s: more is usually a file that was joined with itself."
              .formatted(words(Limit.DOUBLED_KEYS)),
          "Ask for the file once, and whole.");
    }
  }

  private void missing() {
    if (!isOver(Limit.MISSING, found.missing(), found.known())) {
      return;
    }
    if (found.complete()) {
      stop(
          "guard-file-too-short",
          "%,d of %,d people are missing from the file.".formatted(found.missing(), found.known()),
          "The limit is %s: more at once is usually a file that was cut off."
              .formatted(words(Limit.MISSING)),
          "Ask for the whole file.");
    } else {
      stop(
          "guard-many-gone",
          "%,d of %,d people are said to have gone.".formatted(found.missing(), found.known()),
          "The limit is %s: more at once is usually a mistake of whoever says so."
              .formatted(words(Limit.MISSING)),
          "Ask whether they have.");
    }
  }

  private void people() {
    if (isOver(Limit.STRANGERS, found.strangers(), found.rows())) {
      stop(
          "guard-strangers",
          "%,d of %,d rows have a key %s never had."
              .formatted(found.strangers(), found.rows(), source),
          "The limit is %s: more is another organisation's file, or keys that changed for all."
              .formatted(words(Limit.STRANGERS)),
          "Look whose file it is; if all keys changed, bring a column with old and new ones.");
    }
  }

  private void changed(String attribute, long count) {
    var limit =
        NAMES.contains(attribute) && !isOver(Limit.CHANGED, count, found.known())
            ? Limit.RENAMED
            : Limit.CHANGED;
    if (isOver(limit, count, found.known())) {
      stop(
          limit == Limit.RENAMED ? "guard-many-renamed" : "guard-column-shifted",
          "%s changes for %,d of %,d people.".formatted(attribute, count, found.known()),
          "The limit is %s: more is usually %s."
              .formatted(
                  words(limit),
                  limit == Limit.RENAMED ? "a wrong encoding" : "a column that moved"),
          "Compare the file with the one before it, column by column.");
    }
  }

  private void size(Beside beside) {
    var usual = beside.usualRows();
    if (usual == 0 || found.rows() == 0) {
      return;
    }
    if (isOver(Limit.FEWER_ROWS, usual - found.rows(), usual)) {
      stop(
          "guard-fewer-rows",
          "It has %,d rows; usually there are about %,d.".formatted(found.rows(), usual),
          "The limit is %s fewer: more is usually an export that broke off."
              .formatted(words(Limit.FEWER_ROWS)),
          "Ask for the whole file.");
    }
    if (isOver(Limit.MORE_ROWS, found.rows() - usual, usual)) {
      stop(
          "guard-more-rows",
          "It has %,d rows; usually there are about %,d.".formatted(found.rows(), usual),
          "The limit is %s more: beyond it a file was usually joined with another."
              .formatted(words(Limit.MORE_ROWS)),
          "Look what the export was joined with.");
    }
  }

  private void encoding(Beside beside) {
    var isOther =
        beside.charsetBefore() != null
            && beside.charset() != null
            && !beside.charset().equals(beside.charsetBefore());
    if (isOther && found.changed().keySet().stream().anyMatch(NAMES::contains)) {
      stop(
          "guard-encoding-changed",
          "It is read as %s, and the one before it as %s."
              .formatted(beside.charset(), beside.charsetBefore()),
          "Read in a wrong encoding, names with accents change for everybody.",
          "Look at a name with an accent, and correct the encoding if it is wrong.");
    }
  }

  private boolean isOver(Limit limit, long count, long of) {
    return count > limits.of(limit, source) * of;
  }

  private String words(Limit limit) {
    return limit.words(limits.of(limit, source));
  }

  private void stop(String code, String what, String why, String remedy) {
    stops.add(new Problem(code, what, why, remedy + LET_PASS, null));
  }
}
