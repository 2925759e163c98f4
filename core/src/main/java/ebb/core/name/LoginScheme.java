package ebb.core.name;

import ebb.core.person.Attributes;
import ebb.core.person.Person;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Which login names a person may get, in order of preference. */
public final class LoginScheme {
  /** By which accounts say how their owner signs in (RFC 7643, section 4.1.1). */
  public static final String ATTRIBUTE = "userName";

  private static final Pattern FOUND = Pattern.compile("[^\\s\\p{Cntrl}]{1,64}");

  /** Directories and mail systems of every age take twenty characters. */
  static final int LONGEST = 20;

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

  /** given.family, then given.family2, given.family3 …; never empty, and none that is reserved. */
  public static Stream<String> candidates(Person person) {
    var base = base(person);
    return Stream.concat(
            Stream.of(base), IntStream.iterate(2, n -> n + 1).mapToObj(n -> numbered(base, n)))
        .filter(name -> !RESERVED.contains(name));
  }

  /** The first candidate that is free. */
  public static String allocate(Person person, Predicate<String> isFree) {
    return candidates(person).filter(isFree).findFirst().orElseThrow();
  }

  /**
   * Whether a name still follows from the person: a rename asks for a new one, a number at the end
   * does not.
   */
  public static boolean fits(String login, Person person) {
    var base = base(person);
    return login.equals(base)
        || Optional.of(login.replaceAll("\\d+$", ""))
            .filter(
                stem -> !stem.isEmpty() && base.startsWith(stem) && stem.length() >= LONGEST - 4)
            .isPresent()
        || login.matches(Pattern.quote(base) + "\\d+");
  }

  /** Whether a name that was found in an application can be anybody's login. */
  public static boolean mayBeFound(String name) {
    return FOUND.matcher(name).matches();
  }

  /** Whether somebody may be given a name by hand. */
  public static boolean mayBeChosen(String name) {
    return mayBeFound(name) && !RESERVED.contains(name);
  }

  private static String base(Person person) {
    var given = Folding.toAscii(person.get(Attributes.GIVEN_NAME).orElse("")).split("-")[0];
    var family = Folding.toAscii(person.get(Attributes.FAMILY_NAME).orElse(""));
    var joined = EDGE_POINT.matcher(given + "." + family).replaceAll("");
    return joined.isEmpty()
        ? "person" + person.id()
        : joined
            .substring(0, Math.min(joined.length(), LONGEST))
            .transform(name -> LOOSE_END.matcher(name).replaceAll(""));
  }

  private static String numbered(String base, int n) {
    var digits = Integer.toString(n);
    return base.substring(0, Math.min(base.length(), LONGEST - digits.length())) + digits;
  }

  private LoginScheme() {}
}
