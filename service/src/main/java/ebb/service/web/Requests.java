package ebb.service.web;

import ebb.api.Listing;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.store.Page;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.springframework.http.ResponseEntity;

/** Reads and answers what all parts of the interface have in common. */
public final class Requests {
  /** A page no one reads to its end is no page. */
  private static final int LARGEST_PAGE = 1_000;

  private static final int USUAL_PAGE = 50;
  private static final Pattern WAIT = Pattern.compile("\\bwait=(\\d{1,6})");
  private static final long LONGEST_WAIT = 300;

  /** The size of a page; null for the usual one. */
  public static int limit(Integer asked) {
    return asked == null ? USUAL_PAGE : Math.max(1, Math.min(LARGEST_PAGE, asked));
  }

  /** A cursor that is a number; null stays null. */
  public static Long cursor(String cursor) {
    if (cursor == null) {
      return null;
    }
    if (!cursor.matches("\\d{1,18}")) {
      throw badCursor(cursor);
    }
    return Long.parseLong(cursor);
  }

  /**
   * Where a list in the order of time goes on.
   *
   * @param id tells those of one instant apart
   */
  public record Place(Instant at, long id) {
    /** As it is handed out. */
    public String text() {
      return at + "," + id;
    }
  }

  /** A cursor of a list in the order of time; null stays null. */
  public static Place place(String cursor) {
    if (cursor == null) {
      return null;
    }
    var parts = cursor.split(",", -1);
    if (parts.length != 2) {
      throw badCursor(cursor);
    }
    try {
      return new Place(Instant.parse(parts[0]), cursor(parts[1]));
    } catch (DateTimeParseException _) {
      throw badCursor(cursor);
    }
  }

  public static Refusal badCursor(String cursor) {
    return Refusal.invalid(
        new Problem(
            "cursor-invalid",
            "%s is no cursor of this list.".formatted(cursor),
            "Cursors come from the field next of the page before.",
            "Leave it out to begin at the start.",
            Where.field("cursor")));
  }

  /** The version in an If-Match header (RFC 9110, 13.1.1); null where there is none. */
  public static Long version(String ifMatch) {
    if (ifMatch == null || ifMatch.equals("*")) {
      return null;
    }
    var bare = ifMatch.replaceAll("^W/", "").replace("\"", "");
    if (!bare.matches("\\d{1,18}")) {
      throw Refusal.invalid(
          new Problem(
              "if-match-invalid",
              "%s is no ETag of Ebb's.".formatted(ifMatch),
              "ETags are version numbers in quotes.",
              "Send the ETag that came with what you read.",
              Where.field("If-Match")));
    }
    return Long.parseLong(bare);
  }

  /**
   * How long a caller would wait for an answer that is complete (RFC 7240, 4.3); at most five
   * minutes.
   */
  public static Duration wait(String prefer) {
    var seconds = prefer == null ? null : WAIT.matcher(prefer);
    return seconds == null || !seconds.find()
        ? Duration.ZERO
        : Duration.ofSeconds(Math.min(LONGEST_WAIT, Long.parseLong(seconds.group(1))));
  }

  public static <T> ResponseEntity<T> tagged(long version, T body) {
    return ResponseEntity.ok().eTag("\"" + version + "\"").body(body);
  }

  public static <S, T> Listing<T> listing(Page<S> page, Function<S, T> view) {
    return Listing.page(page.items().stream().map(view).toList(), page.next());
  }

  /** A word of an enumeration as it is shown; null stays null. */
  public static <E extends Enum<E>> E word(Class<E> type, String word, String field) {
    if (word == null) {
      return null;
    }
    var name = word.toUpperCase(Locale.ROOT).replace('-', '_').replace(' ', '_');
    return Arrays.stream(type.getEnumConstants())
        .filter(constant -> constant.name().equals(name))
        .findFirst()
        .orElseThrow(() -> unknownWord(type, word, field));
  }

  private static <E extends Enum<E>> Refusal unknownWord(Class<E> type, String word, String field) {
    List<String> words =
        Arrays.stream(type.getEnumConstants())
            .map(constant -> constant.name().toLowerCase(Locale.ROOT).replace('_', '-'))
            .toList();
    return Refusal.invalid(
        new Problem(
            "word-unknown",
            "%s is no %s.".formatted(word, field),
            "It is one of %s.".formatted(String.join(", ", words)),
            "Use one of those.",
            Where.field(field)));
  }

  /**
   * Refuses to overwrite what somebody else wrote meanwhile.
   *
   * @param asked the version the caller read; null if they did not say
   */
  public static void expect(String thing, Long asked, long version) {
    if (asked != null && asked != version) {
      throw new Refusal(
          Refusal.Kind.STALE,
          new Problem(
              "edited-meanwhile",
              "%s was edited since you read it.".formatted(thing),
              "Your edit would overwrite somebody else's.",
              "Read it again, and edit what is there now.",
              null));
    }
  }

  /** What says nothing is as good as left out. */
  public static String blankAsNull(String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }

  /** A text that must be there. */
  public static String required(String text, String field) {
    return present(blankAsNull(text), field);
  }

  /** A value that must be there. */
  public static <T> T present(T value, String field) {
    if (value == null) {
      throw Refusal.invalid(
          new Problem(
              "field-missing",
              "%s is missing.".formatted(field),
              "It cannot be done without.",
              "Add it.",
              Where.field(field)));
    }
    return value;
  }

  private Requests() {}
}
