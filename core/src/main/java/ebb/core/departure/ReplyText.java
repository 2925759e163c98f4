package ebb.core.departure;

import ebb.core.application.Replies.Reply;
import ebb.core.problem.Problem;
import ebb.core.problem.Where;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * The text of automatic replies, with places to be filled. Its first line is the subject.
 *
 * @param days from the last day, for which it is sent
 */
public record ReplyText(String text, int days) {
  private static final Pattern PLACE = Pattern.compile("\\{([^{}\\s]*)\\}");
  private static final List<String> PLACES = List.of("name", "recipient", "address", "lastDay");
  private static final int LONGEST = 4_000;

  /**
   * With all places filled. A line for which there is nothing to be filled in is left out.
   *
   * @param recipient who gets what they leave behind, as a name; empty for nobody
   * @param address of the recipient; empty if there is none
   */
  public Reply filled(
      String name, String recipient, String address, LocalDate lastDay, LocalDate until) {
    var values =
        Map.of(
            "name", name,
            "recipient", recipient,
            "address", address,
            "lastDay", lastDay.toString());
    var lines =
        text.lines()
            .filter(
                line -> PLACE.matcher(line).results().noneMatch(place -> isEmpty(place, values)))
            .map(line -> filled(line, values))
            .collect(Collectors.joining("\n"))
            .strip()
            .split("\n", 2);
    return new Reply(lines[0].strip(), lines.length > 1 ? lines[1].strip() : lines[0], until);
  }

  private static boolean isEmpty(MatchResult place, Map<String, String> values) {
    return values.getOrDefault(place.group(1), "").isEmpty();
  }

  private static String filled(String line, Map<String, String> values) {
    return PLACE
        .matcher(line)
        .replaceAll(place -> Matcher.quoteReplacement(values.get(place.group(1))));
  }

  /** Why it cannot be used; empty if it can. */
  public Optional<Problem> problem() {
    var unknown =
        PLACE
            .matcher(text)
            .results()
            .map(place -> place.group(1))
            .filter(one -> !PLACES.contains(one));
    return unknown
        .findFirst()
        .map(
            place ->
                invalid(
                    "There is no {%s} in automatic replies.".formatted(place),
                    "Use {name}, {recipient}, {address} or {lastDay}."))
        .or(
            () ->
                text.length() > LONGEST || days < 1 || days > Procedure.MOST_DAYS
                    ? Optional.of(
                        invalid(
                            "An automatic reply of %,d characters for %,d days cannot be set."
                                .formatted(text.length(), days),
                            "At most %,d characters, for 1 to %,d days."
                                .formatted(LONGEST, Procedure.MOST_DAYS)))
                    : Optional.empty());
  }

  private static Problem invalid(String what, String remedy) {
    return new Problem(
        "reply-text-invalid",
        what,
        "It would be sent to everybody who writes.",
        remedy,
        Where.field("replyText"));
  }
}
