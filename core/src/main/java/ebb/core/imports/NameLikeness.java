package ebb.core.imports;

import ebb.core.name.Folding;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** How two names, each in a given and a family part, may be names of one person. */
enum NameLikeness {
  SAME(40, "the same name"),
  SWAPPED(40, "the same name, with given and family name swapped"),
  SHORT_FORM(34, "a short form of the same name"),
  PART(34, "part of the same name"),
  SPELLING(32, "a name that differs in a letter or two"),
  OTHER_FAMILY_NAME(14, "the same given name with another family name"),
  OTHER_GIVEN_NAME(6, "the same family name"),
  NONE(0, null);

  /** Name, and the families of short forms it belongs to. */
  private static final Map<String, Set<Integer>> SHORT_FORMS = shortForms();

  private static final int SHORTEST_BEGINNING = 3;

  /** One slip in a name of four letters, two from eight on: shorter ones would all be alike. */
  private static final int LETTERS_A_SLIP = 4;

  private final int weight;
  private final String words;

  NameLikeness(int weight, String words) {
    this.weight = weight;
    this.words = words;
  }

  int weight() {
    return weight;
  }

  /** Null for none. */
  String words() {
    return words;
  }

  /** A name in its two parts, folded. */
  record Name(List<String> given, List<String> family) {
    static Name of(String given, String family) {
      return new Name(tokens(given), tokens(family));
    }

    private static List<String> tokens(String name) {
      return Arrays.stream(Folding.toAscii(name).split("-")).filter(t -> !t.isEmpty()).toList();
    }

    String givenName() {
      return String.join("", given);
    }

    String familyName() {
      return String.join("", family);
    }
  }

  static NameLikeness between(Name one, Name other) {
    var isGiven = one.givenName().equals(other.givenName());
    var isFamily = one.familyName().equals(other.familyName());
    if (isGiven && isFamily) {
      return SAME;
    }
    if (one.givenName().equals(other.familyName()) && one.familyName().equals(other.givenName())) {
      return SWAPPED;
    }
    var isNearFamily = isFamily || isSlip(one.familyName(), other.familyName());
    if (isNearFamily && !isGiven && isShortForm(one, other)) {
      return SHORT_FORM;
    }
    if (isPart(one.given(), other.given()) && isPart(one.family(), other.family())) {
      return PART;
    }
    var isNearGiven = isGiven || isSlip(one.givenName(), other.givenName());
    if (isNearGiven && isNearFamily) {
      return SPELLING;
    }
    if (isNearGiven || isPart(one.given(), other.given())) {
      return OTHER_FAMILY_NAME;
    }
    return isNearFamily ? OTHER_GIVEN_NAME : NONE;
  }

  private static boolean isShortForm(Name one, Name other) {
    if (one.given().isEmpty() || other.given().isEmpty()) {
      return false;
    }
    var a = one.given().getFirst();
    var b = other.given().getFirst();
    var isBeginning =
        Math.min(a.length(), b.length()) >= SHORTEST_BEGINNING
            && (a.startsWith(b) || b.startsWith(a));
    var isInitial = (a.length() == 1 || b.length() == 1) && a.charAt(0) == b.charAt(0);
    return isBeginning
        || isInitial
        || SHORT_FORMS.getOrDefault(a, Set.of()).stream()
            .anyMatch(SHORT_FORMS.getOrDefault(b, Set.of())::contains);
  }

  /** Whether one is some of the other's names: Anna of Anna Lisa, Holm of Holm-Vik. */
  private static boolean isPart(List<String> one, List<String> other) {
    return !one.isEmpty()
        && !other.isEmpty()
        && (new HashSet<>(one).containsAll(other) || new HashSet<>(other).containsAll(one));
  }

  private static boolean isSlip(String one, String other) {
    var shorter = Math.min(one.length(), other.length());
    var allowed = Math.min(2, shorter / LETTERS_A_SLIP);
    return allowed > 0
        && Math.abs(one.length() - other.length()) <= allowed
        && distance(one, other) <= allowed;
  }

  /** Letters added, left out, changed, or exchanged with the next one. */
  static int distance(String one, String other) {
    var before = new int[other.length() + 1];
    var last = new int[other.length() + 1];
    var now = new int[other.length() + 1];
    Arrays.setAll(last, j -> j);
    for (int i = 1; i <= one.length(); i++) {
      now[0] = i;
      for (int j = 1; j <= other.length(); j++) {
        var isSame = one.charAt(i - 1) == other.charAt(j - 1);
        now[j] = Math.min(Math.min(now[j - 1], last[j]) + 1, last[j - 1] + (isSame ? 0 : 1));
        var isExchanged =
            i > 1
                && j > 1
                && one.charAt(i - 1) == other.charAt(j - 2)
                && one.charAt(i - 2) == other.charAt(j - 1);
        if (isExchanged) {
          now[j] = Math.min(now[j], before[j - 2] + 1);
        }
      }
      var free = before;
      before = last;
      last = now;
      now = free;
    }
    return last[other.length()];
  }

  private static Map<String, Set<Integer>> shortForms() {
    var forms = new HashMap<String, Set<Integer>>();
    try (var in = NameLikeness.class.getResourceAsStream("short-forms.txt");
        var lines = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
      int family = 0;
      for (var line = lines.readLine(); line != null; line = lines.readLine()) {
        if (!line.startsWith("#")) {
          family++;
          for (var name : line.split(" ")) {
            forms.computeIfAbsent(name, _ -> new HashSet<>()).add(family);
          }
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return forms;
  }
}
