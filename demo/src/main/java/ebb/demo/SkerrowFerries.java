package ebb.demo;

import de.siegmar.fastcsv.writer.CsvWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;

/**
 * An invented island ferry company and its HR files. The same seed gives the same people; all names
 * are put together from parts, and nobody real is meant.
 */
public final class SkerrowFerries {
  static final String DOMAIN = "skerrow.example";

  /** Those the story is about. */
  static final String DIRECTOR = "1001";

  static final String LEAVES_BY_DATE = "1101";
  static final String LEAVES_BY_MISSING_ROW = "1102";
  static final String STILL_HERE = "1103";
  static final String RENAMED = "1104";
  static final String MOVES_TO_CONTRACT = "1105";
  static final String MOVES_WITHIN = "1106";
  static final String DOUBLE_OF = "1107";
  static final String SEASON_ENDS = "1108";
  static final String GETS_GROUP = "1109";
  static final String STARTS_NEXT_WEEK = "1904";
  static final String RESEMBLES = "1950";

  private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("dd.MM.uuuu");
  private static final int PEOPLE = 420;

  private static final List<String> GIVEN =
      List.of(
          "Ida",
          "Jonas",
          "Maren",
          "Tor",
          "Siobhán",
          "Ruairí",
          "Þóra",
          "Björk",
          "Łucja",
          "Čeněk",
          "Aïcha",
          "Zoë",
          "José",
          "Inês",
          "Anne-Lise",
          "Jean-Marc",
          "D’Arcy",
          "Olga",
          "Дарья",
          "Семён",
          "Ελένη",
          "Νίκος",
          "ليلى",
          "سامر",
          "美咲",
          "健太",
          "지우",
          "민준",
          "अनिता",
          "रवि",
          "Ayşe",
          "Emre",
          "Nguyệt",
          "Tuấn",
          "Kwame",
          "Adaeze",
          "Mele",
          "Tane",
          "Rhys",
          "Bronwen",
          "Maximiliana",
          "Bo",
          "Ebba",
          "Ulf",
          "Grete",
          "Håkon");

  private static final List<String> FAMILY =
      List.of(
          "Holmvik",
          "Tarnwater",
          "O’Skerry",
          "Mac Lunn",
          "Sørbråten",
          "Østgarden",
          "Ældre",
          "Þorvik",
          "Łąkowski",
          "Třebová",
          "Núñez-Arrecife",
          "van der Zandplaat",
          "Fernhollow",
          "Greywharf",
          "Kelpstead",
          "Saltmarsh",
          "Иваньков",
          "Морская",
          "Θαλασσινός",
          "Νησιώτου",
          "البحري",
          "الميناء",
          "海野",
          "船山",
          "바다",
          "섬",
          "समुद्री",
          "नाविक",
          "Yıldızdeniz",
          "Đảo",
          "Okonjo-Brise",
          "Tidewell",
          "Ash",
          "Wolstenholme-Featherbridge",
          "Quill",
          "Brine",
          "Lantern",
          "Marram",
          "Oysterby",
          "Fennel");

  private static final List<String> ISLANDS =
      List.of("Skerrow", "Harrasay", "Oddmoor", "Little Tarn");

  private static final Map<String, List<String>> JOBS = jobs();

  private final LocalDate today;
  private final Map<String, HrRow> dayOne = new LinkedHashMap<>();

  public SkerrowFerries(LocalDate today) {
    this.today = today;
    cast();
    crowd(new Random(20261123));
  }

  private static Map<String, List<String>> jobs() {
    var jobs = new LinkedHashMap<String, List<String>>();
    jobs.put("Deck", List.of("Deckhand", "Bosun", "Mate", "Master"));
    jobs.put("Engine", List.of("Motorman", "Engineer", "Chief engineer"));
    jobs.put("Terminals", List.of("Terminal clerk", "Linesman", "Terminal lead"));
    jobs.put("Catering", List.of("Cook", "Steward", "Purser"));
    jobs.put("Workshop", List.of("Fitter", "Welder", "Electrician"));
    jobs.put("Office", List.of("Accountant", "Timetable planner", "Buyer"));
    jobs.put("Dry dock", List.of("Shipwright", "Painter"));
    return jobs;
  }

  /** The rows of day one that are right, by staff number. */
  Map<String, HrRow> dayOne() {
    return dayOne;
  }

  /** How many rows of the day one file are wrong on purpose. */
  int wrongRows() {
    return wrong().size();
  }

  private void cast() {
    add(row(DIRECTOR, "Solvik", "Marit", "Managing director", "Office", ""));
    int number = 1010;
    for (var unit : JOBS.keySet()) {
      var head = "head." + unit.toLowerCase(Locale.ROOT).replace(' ', '.');
      add(
          row(
                  Integer.toString(number),
                  "Tidewell",
                  GIVEN.get(number % 40),
                  "Head of " + unit.toLowerCase(Locale.ROOT),
                  unit,
                  DIRECTOR)
              .with("Private mail", head + "@post.example"));
      number += 10;
    }
    add(row(LEAVES_BY_DATE, "Wrenfield", "Tobias", "Buyer", "Office", headOf("Office")));
    add(row(LEAVES_BY_MISSING_ROW, "Calderbank", "Ines", "Accountant", "Office", headOf("Office")));
    add(row(STILL_HERE, "Quayle-Ness", "Ottilie", "Purser", "Catering", headOf("Catering")));
    add(row(RENAMED, "Lindtarn", "Anna", "Mate", "Deck", headOf("Deck")));
    add(row(MOVES_TO_CONTRACT, "Brackenrigg", "Joost", "Fitter", "Workshop", headOf("Workshop")));
    add(row(MOVES_WITHIN, "Ferrow", "Nadia", "Steward", "Catering", headOf("Catering")));
    add(row(DOUBLE_OF, "Haldane-Roe", "Mirela", "Linesman", "Terminals", headOf("Terminals")));
    add(row(SEASON_ENDS, "Pelletier", "Amadou", "Deckhand", "Deck", headOf("Deck")));
    add(row(GETS_GROUP, "Oakshore", "Berit", "Mate", "Deck", headOf("Deck")));
  }

  /** Heads of units have the numbers 1010, 1020 … in the order of the units. */
  static String headOf(String unit) {
    return Integer.toString(1010 + 10 * List.copyOf(JOBS.keySet()).indexOf(unit));
  }

  private HrRow row(
      String number, String family, String given, String job, String unit, String manager) {
    return new HrRow(
        List.of(
            number,
            family,
            given,
            job,
            unit,
            ISLANDS.getFirst(),
            manager,
            unit.equals("Dry dock") ? "contractor" : "employee",
            "p" + number + "@post.example",
            "+47 555 " + number,
            DATE.format(today.minusYears(3)),
            "",
            "M1"));
  }

  private void crowd(Random random) {
    var units = List.copyOf(JOBS.keySet());
    for (int number = 1200; dayOne.size() < PEOPLE; number++) {
      var unit = units.get(random.nextInt(units.size()));
      var jobs = JOBS.get(unit);
      var row =
          row(
              Integer.toString(number),
              FAMILY.get(random.nextInt(FAMILY.size())),
              GIVEN.get(random.nextInt(GIVEN.size())),
              jobs.get(random.nextInt(jobs.size())),
              unit,
              headOf(unit));
      if (unit.equals("Dry dock")) {
        // Contracts end with the docking of one ship or another, after the whole example is told.
        row = row.with("Last day", DATE.format(today.plusDays(60 + 6 * (number % 5))));
      }
      // One in four has no private address; their manager is written to.
      add(random.nextInt(4) == 0 ? row.with("Private mail", "") : row);
    }
  }

  private void add(HrRow row) {
    dayOne.put(row.staffNo(), row);
  }

  /** Rows that are wrong on purpose, as such files have them. */
  private List<List<String>> wrong() {
    var cells = row("1801", "Skarv", "Ole", "Cook", "Catering", headOf("Catering"));
    return List.of(
        cells.cells().subList(0, 9),
        row("1802", "Skarv", "Ane", "Cook", "Catering", headOf("Catering"))
            .with("Last day", "31.02.2027")
            .cells(),
        // Two people of one number: nobody can tell which is right.
        row("1803", "Skarv", "Per", "Cook", "Catering", headOf("Catering")).cells(),
        row("1803", "Skarv", "Liv", "Cook", "Catering", headOf("Catering")).cells(),
        row("1804", "", "Lise", "Cook", "Catering", headOf("Catering")).cells(),
        row("1805", "Skarv", "Kari", "Cook", "Catering", "9999").cells(),
        row("1806", "Skarv", "Nils", "Cook", "Catering", headOf("Catering"))
            .with("Private mail", "nils at post.example")
            .cells());
  }

  /** The file of day one. Heads of units stand after those who report to them. */
  public void writeDayOne(Path file) throws IOException {
    var rows = new ArrayList<List<String>>();
    dayOne.values().stream()
        .filter(row -> !row.get("Job").startsWith("Head"))
        .map(HrRow::cells)
        .forEach(rows::add);
    rows.addAll(wrong());
    dayOne.values().stream()
        .filter(row -> row.get("Job").startsWith("Head"))
        .map(HrRow::cells)
        .forEach(rows::add);
    write(file, rows);
  }

  /** The file of day two: the whole company as HR knows it a day later. */
  public void writeDayTwo(Path file) throws IOException {
    var rows = new LinkedHashMap<>(dayOne);
    rows.remove(LEAVES_BY_MISSING_ROW);
    rows.remove(STILL_HERE);
    rows.computeIfPresent(
        LEAVES_BY_DATE, (_, row) -> row.with("Last day", DATE.format(today.minusDays(1))));
    rows.computeIfPresent(
        SEASON_ENDS, (_, row) -> row.with("Last day", DATE.format(today.plusDays(10))));
    rows.computeIfPresent(RENAMED, (_, row) -> row.with("Family name", "Brightwater"));
    rows.computeIfPresent(
        MOVES_TO_CONTRACT,
        (_, row) ->
            row.with("Unit", "Dry dock")
                .with("Contract", "contractor")
                .with("Line manager", headOf("Dry dock")));
    rows.computeIfPresent(
        MOVES_WITHIN,
        (_, row) -> row.with("Unit", "Terminals").with("Line manager", headOf("Terminals")));
    for (int number = 1901; number <= 1903; number++) {
      rows.put(
          Integer.toString(number),
          row(
              Integer.toString(number),
              "Newhaven",
              GIVEN.get(number % 7),
              "Deckhand",
              "Deck",
              headOf("Deck")));
    }
    var next = row(STARTS_NEXT_WEEK, "Morrowby", "Elin", "Cook", "Catering", headOf("Catering"));
    rows.put(STARTS_NEXT_WEEK, next.with("First day", DATE.format(today.plusDays(7))));
    var twin = dayOne.get(DOUBLE_OF);
    rows.put(
        RESEMBLES,
        row(RESEMBLES, "HALDANE ROE", "Mirela", "Linesman", "Terminals", headOf("Terminals"))
            .with("Private mail", "")
            .with("Mobile", twin.get("Mobile")));
    write(file, rows.values().stream().map(HrRow::cells).toList());
  }

  private static void write(Path file, List<List<String>> rows) throws IOException {
    Files.createDirectories(file.getParent());
    try (var csv = CsvWriter.builder().build(file, StandardCharsets.UTF_8)) {
      csv.writeRecord(HrRow.HEADINGS);
      rows.forEach(csv::writeRecord);
    }
  }
}
