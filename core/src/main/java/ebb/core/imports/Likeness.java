package ebb.core.imports;

import ebb.core.imports.NameLikeness.Name;
import ebb.core.name.Folding;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Whether a row under a key never seen may be somebody who is known already, and why one would
 * think so. It never decides: whoever is like a row is offered, and somebody answers.
 */
public final class Likeness {
  /** From this on somebody is asked: a name alone is less, a name and one more thing is more. */
  public static final int ENOUGH = 54;

  private static final int MOST = 100;
  private static final int PHONE_DIGITS = 8;
  private static final int MOST_COMPARED = 6;

  /** Somebody of whom it was decided that they have left, named again under their own key. */
  public static final Resemblance LEFT_AND_NAMED_AGAIN =
      new Resemblance(
          MOST, List.of("the same key", "was decided to have left, and is named again"));

  /**
   * @param score up to 100
   * @param reasons in words, strongest first; never empty
   */
  public record Resemblance(int score, List<String> reasons) {}

  /**
   * Somebody known.
   *
   * @param isVanished whether the source does not name the person any more
   * @param isNamed whether the file at hand names the person under a key of their own
   * @param isDeparted whether the person has left
   */
  public record Known(Person person, boolean isVanished, boolean isNamed, boolean isDeparted) {}

  /**
   * What people are looked up by before they are compared; whoever may be one person has at least
   * one of these in common. Numbers that stand for texts: two of them are alike by chance only, and
   * the comparing tells.
   */
  public static SortedSet<Long> clues(Map<String, String> values) {
    var clues = new TreeSet<Long>();
    var name = name(values);
    var given = name.given().isEmpty() ? "" : name.given().getFirst();
    var family = name.family().isEmpty() ? "" : name.family().getFirst();
    // The letters of a whole name in their order: it stays when parts or letters are exchanged.
    add(clues, "letters", sorted(name.givenName() + name.familyName()));
    add(clues, "family", family, beginning(given, 3));
    add(clues, "given", given, beginning(family, 3));
    add(clues, "mail", mail(values.get(Attributes.HOME_EMAIL)));
    add(clues, "phone", phone(values.get(Attributes.MOBILE)));
    add(clues, "number", values.getOrDefault(Attributes.EMPLOYEE_NUMBER, ""));
    var start = values.getOrDefault(Attributes.START_DATE, "");
    if (!start.isEmpty()) {
      add(clues, "given and start", beginning(given, 3), start);
      add(clues, "family and start", beginning(family, 3), start);
    }
    return clues;
  }

  /**
   * By what two rows of one file are one person beyond much doubt: a whole name with an address or
   * a number. Empty where a row has neither.
   */
  public static Optional<Print> sameInOneFile(Map<String, String> values) {
    var name = name(values);
    var mail = mail(values.get(Attributes.HOME_EMAIL));
    var reach = mail.isEmpty() ? phone(values.get(Attributes.MOBILE)) : mail;
    return reach.isEmpty()
        ? Optional.empty()
        : Optional.of(Print.of(name.givenName() + "\n" + name.familyName() + "\n" + reach));
  }

  /** Somebody new whom an earlier line of the same file names, too. */
  public static Resemblance inLine(long line) {
    return new Resemblance(
        NameLikeness.SAME.weight() + 44,
        List.of("the same name and address or number", "line %d of this file".formatted(line)));
  }

  /** As of {@link #clues(Map)}. */
  public static SortedSet<Long> clues(Person person) {
    return clues(values(person));
  }

  /**
   * Whom to compare with a row: those who have most in common with it, a rare clue counting more
   * than one that many have.
   *
   * @param clues of the row
   * @param having clue to the people who have it; a clue that is missing says nothing
   */
  public static List<PersonId> likeliest(
      Collection<Long> clues, Map<Long, ? extends Collection<PersonId>> having) {
    var weights = new TreeMap<PersonId, Double>();
    for (var clue : clues) {
      var people = having.get(clue);
      if (people != null) {
        people.forEach(person -> weights.merge(person, 1.0 / people.size(), Double::sum));
      }
    }
    return weights.entrySet().stream()
        .sorted(Map.Entry.<PersonId, Double>comparingByValue().reversed())
        .limit(MOST_COMPARED)
        .map(Map.Entry::getKey)
        .toList();
  }

  /**
   * Why two people who are known may be one; empty if nobody need ask. Two of whom one source says
   * that they are two are hardly one.
   */
  public static Optional<Resemblance> between(
      Person one, Person other, boolean isNamedBeside, boolean isDeparted) {
    return between(values(one), new Known(other, false, isNamedBeside, isDeparted));
  }

  private static Map<String, String> values(Person person) {
    return person.attributes().entrySet().stream()
        .collect(Collectors.toMap(Map.Entry::getKey, entry -> entry.getValue().value()));
  }

  private static void add(SortedSet<Long> clues, String kind, String... parts) {
    if (Arrays.stream(parts).noneMatch(String::isEmpty)) {
      clues.add(Print.of(kind + "\n" + String.join("\n", parts)).low());
    }
  }

  private static String sorted(String text) {
    var letters = text.toCharArray();
    Arrays.sort(letters);
    return new String(letters);
  }

  private static String beginning(String text, int length) {
    return text.substring(0, Math.min(length, text.length()));
  }

  private static Name name(Map<String, String> values) {
    return Name.of(
        values.getOrDefault(Attributes.GIVEN_NAME, ""),
        values.getOrDefault(Attributes.FAMILY_NAME, ""));
  }

  /** Empty where there is none. */
  private static String mail(String address) {
    return address == null ? "" : address.strip().toLowerCase(Locale.ROOT);
  }

  /** Its last digits: what comes before is a country, or the zero in its place. */
  private static String phone(String number) {
    var digits = number == null ? "" : number.replaceAll("\\D", "");
    return digits.length() < PHONE_DIGITS - 2
        ? ""
        : digits.substring(Math.max(0, digits.length() - PHONE_DIGITS));
  }

  /** Why a row may be somebody known; empty if nobody need ask. */
  public static Optional<Resemblance> between(Map<String, String> row, Known known) {
    return Optional.of(compare(row, known)).filter(found -> found.score() >= ENOUGH);
  }

  /**
   * As {@link #between}, where somebody is sure that the row is nobody new: a name alone is enough.
   */
  public static Optional<Resemblance> near(Map<String, String> row, Known known) {
    return Optional.of(compare(row, known))
        .filter(found -> found.score() >= NameLikeness.SPELLING.weight());
  }

  private record Reason(int weight, String words) {}

  private static Resemblance compare(Map<String, String> row, Known known) {
    var person = values(known.person());
    var reasons = new ArrayList<Reason>();
    var name = NameLikeness.between(name(row), name(person));
    if (name != NameLikeness.NONE) {
      reasons.add(new Reason(name.weight(), name.words()));
    }
    same(
        reasons,
        46,
        "the same private address",
        mail(row.get(Attributes.HOME_EMAIL)),
        mail(person.get(Attributes.HOME_EMAIL)));
    same(
        reasons,
        44,
        "the same mobile number",
        phone(row.get(Attributes.MOBILE)),
        phone(person.get(Attributes.MOBILE)));
    same(
        reasons,
        46,
        "the same staff number",
        row.get(Attributes.EMPLOYEE_NUMBER),
        person.get(Attributes.EMPLOYEE_NUMBER));
    same(
        reasons,
        16,
        "the same first day",
        row.get(Attributes.START_DATE),
        person.get(Attributes.START_DATE));
    same(
        reasons,
        6,
        "the same unit",
        folded(row.get(Attributes.DEPARTMENT)),
        folded(person.get(Attributes.DEPARTMENT)));
    same(
        reasons,
        4,
        "the same job",
        folded(row.get(Attributes.TITLE)),
        folded(person.get(Attributes.TITLE)));
    if (known.isVanished()) {
      reasons.add(new Reason(30, "missing from the source now"));
    } else if (known.isDeparted()) {
      reasons.add(new Reason(16, "has left, and may be coming back"));
    }
    // Father and son, and twins, have much in common, and each a row of their own.
    var score = reasons.stream().mapToInt(Reason::weight).sum() - (known.isNamed() ? 20 : 0);
    return new Resemblance(
        Math.clamp(score, 0, MOST),
        reasons.stream()
            .sorted(Comparator.comparingInt(Reason::weight).reversed())
            .map(Reason::words)
            .toList());
  }

  private static String folded(String text) {
    return text == null ? "" : Folding.forComparing(text);
  }

  private static void same(
      List<Reason> reasons, int weight, String words, String one, String other) {
    if (one != null && !one.isEmpty() && one.equals(other)) {
      reasons.add(new Reason(weight, words));
    }
  }

  private Likeness() {}
}
