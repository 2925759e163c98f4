package ebb.core.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.imports.Likeness.Known;
import ebb.core.person.People;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.testng.annotations.Test;

/**
 * Pairs of a row and somebody known of which it is known whether they are one person: made from
 * names of many scripts and from what happens to them on their way through forms and exports.
 */
@Test
public class LabelledPairsTest {
  private static final int OF_EACH = 150;

  /** Given and family names as their bearers write them, and in Latin letters. */
  private static final List<String[]> NAMES =
      List.of(
          new String[] {"Åse", "Kvåle", "Ase", "Kvale"},
          new String[] {"Ingeborg", "Sørensen", "Ingeborg", "Sorensen"},
          new String[] {"Дмитрий", "Соколов", "Dmitriy", "Sokolov"},
          new String[] {"Анна", "Морозова", "Anna", "Morozova"},
          new String[] {"Γιώργος", "Παπαδάκης", "Giorgos", "Papadakis"},
          new String[] {"José", "Muñoz García", "Jose", "Munoz Garcia"},
          new String[] {"Siobhán", "O'Rourke", "Siobhan", "ORourke"},
          new String[] {"Nguyễn", "Thảo", "Nguyen", "Thao"},
          new String[] {"Zoë", "Vermeulen", "Zoe", "Vermeulen"},
          new String[] {"Wojciech", "Łukaszewski", "Wojciech", "Lukaszewski"},
          new String[] {"Robert", "Haldane", "Bob", "Haldane"},
          new String[] {"Elizabeth", "Marwick", "Liz", "Marwick"},
          new String[] {"Katherine", "Blackwood", "Kate", "Blackwood"},
          new String[] {"William", "Thorburn", "Bill", "Thorburn"},
          new String[] {"Margaret", "Isbister", "Maggie", "Isbister"},
          new String[] {"Anna Lisa", "Holm-Vik", "Anna", "Holm"},
          new String[] {"Per Olav", "Brekke", "Per", "Brekke"},
          new String[] {"Jürgen", "Weiß", "Jurgen", "Weiss"},
          new String[] {"Çağla", "Yıldız", "Cagla", "Yildiz"},
          new String[] {"Mirela", "Stoica", "Mirela", "Stoica"});

  private record Pair(String kind, boolean isOne, Map<String, String> row, Known known) {}

  private final Random random = Chance.random(20_261_123);

  public void nearlyAllWhoAreOnePersonAreOfferedAndFewWhoAreNot() {
    var pairs = pairs();
    assertThat(pairs).hasSizeGreaterThanOrEqualTo(2_000);
    var offered = new TreeMap<String, List<Boolean>>();
    pairs.forEach(
        pair -> offered.computeIfAbsent(pair.kind(), _ -> new ArrayList<>()).add(isOffered(pair)));
    var said =
        offered.entrySet().stream()
            .map(kind -> "%s %.2f".formatted(kind.getKey(), share(kind.getValue())))
            .collect(Collectors.joining(", "));
    assertThat(share(pairs.stream().filter(Pair::isOne).map(LabelledPairsTest::isOffered).toList()))
        .as(said)
        .isGreaterThanOrEqualTo(0.95);
    assertThat(
            share(
                pairs.stream().filter(p -> !p.isOne()).map(LabelledPairsTest::isOffered).toList()))
        .as(said)
        .isLessThanOrEqualTo(0.20);
  }

  /** They are asked about, never decided: who shares a house shares a number. */
  public void fatherAndSonOfOneNameAreAskedAbout() {
    pairs().stream()
        .filter(pair -> pair.kind().equals("father and son of one name"))
        .forEach(pair -> assertThat(isOffered(pair)).isTrue());
  }

  private static double share(List<Boolean> all) {
    return all.stream().filter(one -> one).count() / (double) all.size();
  }

  private static boolean isOffered(Pair pair) {
    var common = Likeness.clues(pair.row());
    common.retainAll(Likeness.clues(pair.known().person()));
    return !common.isEmpty() && Likeness.between(pair.row(), pair.known()).isPresent();
  }

  private List<Pair> pairs() {
    var pairs = new ArrayList<Pair>();
    for (int i = 0; i < OF_EACH; i++) {
      truePairs(pairs);
      falsePairs(pairs);
    }
    return pairs;
  }

  private void truePairs(List<Pair> pairs) {
    one(pairs, "accents lost, mail kept", false, false, this::inLatin, "phoneNumbers.mobile");
    one(
        pairs,
        "letters exchanged, number written otherwise",
        false,
        false,
        row -> changed(number(row), "name.familyName", this::exchanged),
        "emails.home");
    one(
        pairs,
        "a letter lost, first day kept, missing",
        true,
        false,
        row -> changed(row, "name.givenName", this::without),
        "emails.home",
        "phoneNumbers.mobile");
    one(
        pairs,
        "married, number kept",
        false,
        false,
        row -> with(row, "name.familyName", "Tangen"),
        "emails.home");
    one(
        pairs,
        "married, missing, first day kept",
        true,
        false,
        row -> with(row, "name.familyName", "Eriksen"),
        "emails.home",
        "phoneNumbers.mobile");
    one(pairs, "given and family name swapped", false, false, this::swapped, "phoneNumbers.mobile");
    one(
        pairs,
        "another key, nothing else kept",
        true,
        false,
        row -> row,
        "emails.home",
        "phoneNumbers.mobile",
        "startDate");
    one(
        pairs,
        "comes back after years",
        false,
        true,
        row -> with(row, "startDate", "2027-01-0" + (1 + random.nextInt(9))),
        "emails.home",
        "phoneNumbers.mobile");
    one(
        pairs,
        "in another source, staff number and spelling",
        false,
        false,
        row -> changed(row, "name.familyName", this::exchanged),
        "emails.home",
        "phoneNumbers.mobile",
        "startDate");
    worn(pairs);
  }

  /**
   * A slip in each name, another unit, and one thing kept: at worst a first day that many share.
   */
  private void worn(List<Pair> pairs) {
    var lost = new ArrayList<>(List.of("emails.home", "phoneNumbers.mobile", "startDate"));
    lost.remove(random.nextInt(lost.size()));
    one(
        pairs,
        "slips in both names, another unit, one thing kept",
        false,
        false,
        row ->
            with(
                changed(
                    changed(row, "name.familyName", this::exchanged),
                    "name.givenName",
                    this::without),
                "department",
                "Workshop"),
        lost.toArray(String[]::new));
  }

  /** What is lost is lost in the row; the person keeps all of it. */
  private void one(
      List<Pair> pairs,
      String kind,
      boolean isVanished,
      boolean isDeparted,
      UnaryOperator<Map<String, String>> change,
      String... lost) {
    var person = person(NAMES.get(random.nextInt(NAMES.size())));
    var row = change.apply(new HashMap<>(person));
    for (var attribute : lost) {
      row.remove(attribute);
    }
    if (!kind.contains("staff number")) {
      row.put("employeeNumber", Integer.toString(random.nextInt(1_000_000)));
    }
    pairs.add(
        new Pair(
            kind, true, row, new Known(People.person(1, person), isVanished, false, isDeparted)));
  }

  private void falsePairs(List<Pair> pairs) {
    var name = NAMES.get(random.nextInt(NAMES.size()));
    var one = person(name);
    other(pairs, "namesakes", one, person(name), false);
    var twin = person(name);
    twin.put("name.givenName", "Torvald");
    twin.put("startDate", one.get("startDate"));
    other(pairs, "twins begun together", one, twin, true);
    var son = person(name);
    son.put("phoneNumbers.mobile", one.get("phoneNumbers.mobile"));
    if (random.nextInt(5) == 0) {
      other(pairs, "father and son of one name", one, son, true);
    }
    var colleague = person(NAMES.get(random.nextInt(NAMES.size())));
    colleague.put("name.givenName", one.get("name.givenName"));
    colleague.put("name.familyName", "Aaberg");
    colleague.put("startDate", one.get("startDate"));
    colleague.put("department", one.get("department"));
    other(pairs, "one given name, one intake", one, colleague, false);
    var wife = person(name);
    wife.put("name.givenName", "Solveig");
    wife.put("emails.home", one.get("emails.home"));
    other(pairs, "a couple with one address", one, wife, true);
    var stranger = person(NAMES.get(random.nextInt(NAMES.size())));
    stranger.put("name.familyName", "Quenneville");
    stranger.put("startDate", one.get("startDate"));
    other(pairs, "strangers", one, stranger, false);
  }

  private void other(
      List<Pair> pairs,
      String kind,
      Map<String, String> row,
      Map<String, String> person,
      boolean isNamed) {
    pairs.add(
        new Pair(kind, false, row, new Known(People.person(1, person), false, isNamed, false)));
  }

  private Map<String, String> person(String[] name) {
    var person = new HashMap<String, String>();
    person.put("name.givenName", name[0]);
    person.put("name.familyName", name[1]);
    person.put("emails.home", "p%d@post.example".formatted(random.nextInt(1_000_000_000)));
    person.put("phoneNumbers.mobile", "+47 4%07d".formatted(random.nextInt(10_000_000)));
    person.put("employeeNumber", Integer.toString(random.nextInt(1_000_000)));
    person.put(
        "startDate",
        "20%02d-%02d-%02d"
            .formatted(10 + random.nextInt(16), 1 + random.nextInt(12), 1 + random.nextInt(28)));
    person.put("department", List.of("Deck", "Engine", "Terminals").get(random.nextInt(3)));
    return person;
  }

  private Map<String, String> inLatin(Map<String, String> row) {
    NAMES.stream()
        .filter(name -> name[0].equals(row.get("name.givenName")))
        .findFirst()
        .ifPresent(
            name -> {
              row.put("name.givenName", name[2]);
              row.put("name.familyName", name[3]);
            });
    return row;
  }

  private static Map<String, String> number(Map<String, String> row) {
    return changed(row, "phoneNumbers.mobile", text -> text.replace("+47 ", "0047-"));
  }

  private Map<String, String> swapped(Map<String, String> row) {
    var given = row.get("name.givenName");
    row.put("name.givenName", row.get("name.familyName"));
    row.put("name.familyName", given);
    return row;
  }

  private static Map<String, String> with(Map<String, String> row, String name, String value) {
    row.put(name, value);
    return row;
  }

  private static Map<String, String> changed(
      Map<String, String> row, String name, UnaryOperator<String> change) {
    row.computeIfPresent(name, (_, value) -> change.apply(value));
    return row;
  }

  private String exchanged(String text) {
    var at = 1 + random.nextInt(Math.max(1, text.length() - 2));
    return at + 1 >= text.length()
        ? text
        : text.substring(0, at) + text.charAt(at + 1) + text.charAt(at) + text.substring(at + 2);
  }

  private String without(String text) {
    var at = 1 + random.nextInt(Math.max(1, text.length() - 1));
    return text.length() < 5 ? text : text.substring(0, at) + text.substring(at + 1);
  }
}
