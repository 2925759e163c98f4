package ebb.core.imports;

import ebb.core.name.Folding;
import ebb.core.person.Attributes;
import ebb.core.person.Catalogue;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** How the columns of a file nobody has mapped yet may fill attributes, with how sure that is. */
public final class Suggestions {
  /** Below this a column is left for somebody to decide. */
  public static final int SURE_ENOUGH = 60;

  /** The attribute under which templates have the key. */
  public static final String KEY_ATTRIBUTE = Attributes.EMPLOYEE_NUMBER;

  /** The key of the row by which a template shows how it is filled in. */
  public static final String EXAMPLE_KEY = "EXAMPLE";

  private static final String KEY = "key";
  private static final Map<String, List<String>> WORDS = Words.of("headings.properties");
  private static final Map<String, Set<String>> HEADINGS = Words.folded(WORDS);

  /**
   * One column.
   *
   * @param attribute null where nothing is suggested
   * @param confidence in percent
   * @param reason in words, why
   * @param examples the first values it holds
   */
  public record Column(
      String heading, String attribute, int confidence, String reason, List<String> examples) {}

  /**
   * What is suggested for a file.
   *
   * @param key heading of the column that may hold the key; null if none does
   * @param dateFormats every way to write dates that all dates of the file can be read in; where
   *     there are several somebody must say which
   */
  public record Suggested(String key, List<Column> columns, List<String> dateFormats) {
    /** The columns one can be sure of, as a mapping; the others are ignored. */
    public Mapping mapping() {
      var columns = new TreeMap<String, String>();
      var ignored = new TreeSet<String>();
      for (var column : this.columns) {
        if (column.attribute() != null && column.confidence() >= SURE_ENOUGH) {
          columns.put(column.heading(), column.attribute());
        } else {
          ignored.add(column.heading());
        }
      }
      ignored.remove(key);
      return new Mapping(
          key, columns, ignored, dateFormats.size() == 1 ? dateFormats.getFirst() : null);
    }
  }

  /**
   * @param sample the first rows; may be empty
   * @param units the units that are known
   */
  public static Suggested of(
      List<String> headings, List<Row> sample, Catalogue catalogue, Set<String> units) {
    var columns = new ArrayList<Column>();
    var taken = new HashSet<String>();
    var guesses = new ArrayList<Column>();
    for (int i = 0; i < headings.size(); i++) {
      guesses.addAll(guesses(headings.get(i), values(sample, i), catalogue, units));
    }
    headings.forEach(
        heading -> former(heading, values(sample, headings.indexOf(heading)), guesses));
    guesses.sort(Comparator.comparingInt(Column::confidence).reversed());
    var best = new HashMap<String, Column>();
    for (var guess : guesses) {
      if (!best.containsKey(guess.heading()) && taken.add(guess.attribute())) {
        best.put(guess.heading(), guess);
      }
    }
    for (int i = 0; i < headings.size(); i++) {
      var heading = headings.get(i);
      var values = values(sample, i);
      columns.add(
          best.getOrDefault(
              heading, new Column(heading, null, 0, "nothing known is called so", first(values))));
    }
    var key = key(headings, sample);
    if (key != null && !taken.contains(KEY_ATTRIBUTE)) {
      columns.replaceAll(column -> isFree(column, key) ? ofKey(column) : column);
    }
    return new Suggested(key, columns, dateFormats(columns, headings, sample, catalogue));
  }

  private static boolean isFree(Column column, String key) {
    return column.heading().equals(key) && column.attribute() == null;
  }

  private static Column ofKey(Column column) {
    return new Column(
        column.heading(), KEY_ATTRIBUTE, SURE_ENOUGH + 10, "it is the key", column.examples());
  }

  private static List<Column> guesses(
      String heading, List<String> values, Catalogue catalogue, Set<String> units) {
    var guesses = new ArrayList<Column>();
    for (var attribute : catalogue.all()) {
      int named = named(heading, attribute.name());
      var fit = Values.fit(attribute, values, units);
      int confidence =
          switch (fit) {
            case SAY_SO -> named == 0 ? 65 : Math.min(named + 9, 99);
            case ALLOW -> named;
            case DIVIDE -> Math.max(named - 25, 0);
            case CONTRADICT -> named / 2;
          };
      if (confidence > 0) {
        guesses.add(
            new Column(heading, attribute.name(), confidence, reason(named, fit), first(values)));
      }
    }
    return guesses;
  }

  private static void former(String heading, List<String> values, List<Column> guesses) {
    int named = named(heading, Mapping.FORMER_KEY);
    if (named > 0) {
      guesses.add(
          new Column(
              heading, Mapping.FORMER_KEY, named, reason(named, Values.Fit.ALLOW), first(values)));
    }
  }

  private static String reason(int named, Values.Fit fit) {
    var name =
        named >= 90
            ? "it is called so"
            : named > 0 ? "its heading sounds like it" : "its heading says nothing";
    return switch (fit) {
      case SAY_SO -> name + ", and its values look like it";
      case ALLOW -> name;
      case DIVIDE -> name + ", but only some of its values look like it";
      case CONTRADICT -> name + ", but its values do not look like it";
    };
  }

  /** 90 for a name or a synonym of it, 70 for one within the heading, 0 for neither. */
  private static int named(String heading, String attribute) {
    var folded = Folding.forComparing(heading);
    var names = HEADINGS.getOrDefault(attribute, Set.of());
    if (folded.equals(Folding.forComparing(attribute)) || names.contains(folded)) {
      return 90;
    }
    return names.stream().anyMatch(name -> name.length() > 4 && folded.contains(name)) ? 70 : 0;
  }

  /**
   * The first column that is called like a key and holds, some slips aside, another text in each
   * row.
   */
  private static String key(List<String> headings, List<Row> sample) {
    for (int i = 0; i < headings.size(); i++) {
      var values = values(sample, i);
      var distinct = new HashSet<>(values).size();
      if (named(headings.get(i), KEY) >= 70
          && named(headings.get(i), Mapping.FORMER_KEY) == 0
          && distinct >= sample.size() * Values.MOST) {
        return headings.get(i);
      }
    }
    return null;
  }

  private static List<String> dateFormats(
      List<Column> columns, List<String> headings, List<Row> sample, Catalogue catalogue) {
    var dates = new ArrayList<String>();
    for (var column : columns) {
      if (catalogue.find(column.attribute()).filter(Values::isOfDates).isPresent()) {
        dates.addAll(values(sample, headings.indexOf(column.heading())));
      }
    }
    return Values.dateFormats(dates);
  }

  private static List<String> values(List<Row> sample, int column) {
    return sample.stream()
        .map(Row::cells)
        .filter(cells -> column < cells.size())
        .map(cells -> cells.get(column).strip())
        .filter(cell -> !cell.isEmpty())
        .toList();
  }

  private static List<String> first(List<String> values) {
    return values.stream().distinct().limit(3).toList();
  }

  /** What a column of an attribute is called where Ebb makes it; an own one has its own name. */
  public static String label(String attribute) {
    var words = WORDS.get(attribute);
    if (words == null) {
      return attribute;
    }
    var first = words.getFirst();
    return Character.toUpperCase(first.charAt(0)) + first.substring(1);
  }

  private Suggestions() {}
}
