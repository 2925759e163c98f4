package ebb.core.name;

import ebb.core.person.Attributes;
import ebb.core.person.Person;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * How the names are made by which people sign in.
 *
 * @param number by which it is known; one that was in force stays known, as names were made by it
 * @param expressions what gives a name, of a person, in order: the first that is free is taken;
 *     none gives the usual one, given.family
 * @param longest characters of a name
 * @param reserved that nobody is given, beside mailboxes that every domain has
 * @param restDays for which the names of whoever was forgotten are given to nobody else
 */
public record LoginScheme(
    int number, List<String> expressions, int longest, SortedSet<String> reserved, int restDays) {
  /** By which accounts say how their owner signs in (RFC 7643, section 4.1.1). */
  public static final String ATTRIBUTE = "userName";

  /**
   * Directories and mail systems of every age take twenty characters; in a year most of those who
   * still write to the old name are answered.
   */
  public static final LoginScheme USUAL = new LoginScheme(0, List.of(), 20, new TreeSet<>(), 365);

  /** What the registry keeps. */
  public static final int MOST_CHARACTERS = 64;

  public static final int MOST_EXPRESSIONS = 10;

  /** Thirty years. */
  public static final int MOST_REST_DAYS = 10_958;

  /** Mailboxes that every domain has (RFC 2142), and names that systems keep for themselves. */
  private static final Set<String> RESERVED =
      Set.of(
          "abuse",
          "admin",
          "administrator",
          "hostmaster",
          "info",
          "marketing",
          "news",
          "noc",
          "postmaster",
          "root",
          "sales",
          "security",
          "support",
          "usenet",
          "uucp",
          "webmaster",
          "www");

  private static final Pattern EDGE_POINT = Pattern.compile("^\\.|\\.$");
  private static final Pattern LOOSE_END = Pattern.compile("[.-]+$");

  private static final Pattern FOUND = Pattern.compile("[^\\s\\p{Cntrl}]{1,64}");

  public LoginScheme {
    expressions = List.copyOf(expressions);
    reserved = new TreeSet<>(reserved);
  }

  /** What an expression gives for a person; empty where a value it reads is missing. */
  public interface Texts {
    Optional<String> of(String expression, Person person);
  }

  /** The names a person may have, the best first; never ends, and has none that is reserved. */
  public Stream<String> candidates(Person person, Texts texts) {
    var bases = bases(person, texts);
    var first = bases.getFirst();
    return Stream.concat(
            bases.stream(), IntStream.iterate(2, n -> n + 1).mapToObj(n -> numbered(first, n)))
        .filter(name -> !isReserved(name));
  }

  /** The first candidate that is free. */
  public String allocate(Person person, Texts texts, Predicate<String> isFree) {
    return candidates(person, texts).filter(isFree).findFirst().orElseThrow();
  }

  /**
   * Whether a name still follows from the person: a rename asks for a new one, a number at the end
   * does not.
   */
  public boolean fits(String login, Person person, Texts texts) {
    return bases(person, texts).stream().anyMatch(base -> fits(login, base));
  }

  private boolean fits(String login, String base) {
    return login.equals(base)
        || Optional.of(login.replaceAll("\\d+$", ""))
            .filter(
                stem -> !stem.isEmpty() && base.startsWith(stem) && stem.length() >= longest - 4)
            .isPresent()
        || login.matches(Pattern.quote(base) + "\\d+");
  }

  /** Whether a name that was found in an application can be anybody's login. */
  public static boolean mayBeFound(String name) {
    return FOUND.matcher(name).matches();
  }

  /** Whether somebody may be given a name by hand. */
  public boolean mayBeChosen(String name) {
    return mayBeFound(name) && !isReserved(name);
  }

  private boolean isReserved(String name) {
    return RESERVED.contains(name) || reserved.contains(name);
  }

  /** Names without a number; at least one. */
  private List<String> bases(Person person, Texts texts) {
    var made =
        expressions.stream()
            .flatMap(expression -> texts.of(expression, person).stream())
            .map(this::fitting)
            .filter(name -> !name.isEmpty())
            .distinct()
            .toList();
    return made.isEmpty() ? List.of(usual(person)) : made;
  }

  private String usual(Person person) {
    var given = Folding.toAscii(person.get(Attributes.GIVEN_NAME).orElse("")).split("-")[0];
    var family = Folding.toAscii(person.get(Attributes.FAMILY_NAME).orElse(""));
    var joined = EDGE_POINT.matcher(given + "." + family).replaceAll("");
    return joined.isEmpty() ? "person" + person.id() : cut(joined);
  }

  /** Whatever an expression gives, as a name can be: parts of ASCII between points. */
  private String fitting(String text) {
    return cut(
        Arrays.stream(text.split("\\."))
            .map(Folding::toAscii)
            .filter(part -> !part.isEmpty())
            .collect(Collectors.joining(".")));
  }

  private String cut(String name) {
    return LOOSE_END.matcher(name.substring(0, Math.min(name.length(), longest))).replaceAll("");
  }

  private String numbered(String base, int n) {
    var digits = Integer.toString(n);
    return base.substring(0, Math.min(base.length(), longest - digits.length())) + digits;
  }
}
