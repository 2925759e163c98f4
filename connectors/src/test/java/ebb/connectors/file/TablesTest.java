package ebb.connectors.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.Chance;
import ebb.core.imports.Format;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Files as people really have them: beside each stands what it must give. */
public class TablesTest {
  private static final Path CORPUS = Path.of("src/test/resources/corpus");
  private static final String GIVES = ".gives";

  private Path folder;

  @BeforeClass
  void makeFolder() throws IOException {
    folder = Files.createDirectories(Path.of("target/tables"));
  }

  @DataProvider
  Iterator<Object[]> corpus() throws IOException {
    try (Stream<Path> files = Files.list(CORPUS)) {
      return files
          .filter(file -> !file.toString().endsWith(GIVES))
          .sorted()
          .map(file -> new Object[] {file.getFileName().toString()})
          .toList()
          .iterator();
    }
  }

  @Test(dataProvider = "corpus")
  public void aFileGivesWhatStandsBesideIt(String name) throws IOException {
    var expected = Files.readString(CORPUS.resolve(name + GIVES)).lines().toList();

    assertThat(read(CORPUS.resolve(name), name)).containsExactlyElementsOf(expected);
  }

  @Test
  public void theCorpusHasNoForgottenExpectations() throws IOException {
    try (Stream<Path> files = Files.list(CORPUS)) {
      var names = files.map(file -> file.getFileName().toString()).toList();

      assertThat(names).allSatisfy(name -> assertThat(partner(name)).isIn(names));
    }
  }

  @Test
  public void aValueOfFiveMegabytesIsRefusedAndNotKept() throws IOException {
    var file = folder.resolve("long.csv");
    Files.writeString(file, "No,Name\n7,Ida\n8," + "x".repeat(5 << 20) + "\n");

    assertThat(read(file, "long.csv")).containsExactly("refused file-not-csv 3");
  }

  @Test
  public void aThousandColumnsAreRefused() throws IOException {
    var file = folder.resolve("wide.csv");
    Files.writeString(file, "c,".repeat(1_000) + "end\n");

    assertThat(read(file, "wide.csv")).containsExactly("refused too-many-columns");
  }

  @DataProvider
  Object[][] namesOfBombs() {
    return new Object[][] {{"bomb.csv"}, {"bomb.xlsx"}};
  }

  @Test(dataProvider = "namesOfBombs")
  public void anArchiveThatSwellsIsRefusedBeforeItIsOpened(String name) throws IOException {
    var file = folder.resolve(name);
    var zeros = new byte[1 << 20];
    try (var zip = new ZipOutputStream(new BufferedOutputStream(Files.newOutputStream(file)))) {
      zip.setLevel(Deflater.BEST_SPEED);
      zip.putNextEntry(new ZipEntry("xl/workbook.xml"));
      for (long written = 0; written <= WorkbookRows.LARGEST_UNPACKED; written += zeros.length) {
        zip.write(zeros);
      }
    }

    assertThat(Files.size(file)).isLessThan(4 << 20);
    assertThat(read(file, name)).containsExactly("refused file-swells");
  }

  @Test
  public void anAccentInTheLastLineOfALongFileIsSeenBeforeTheFirstIsRead() throws IOException {
    var file = folder.resolve("late.csv");
    var text = "No;Name\n" + "7;Ida Holm\n".repeat(50_000) + "8;Jørn\n";
    Files.write(file, text.getBytes("windows-1252"));

    var all = read(file, "late.csv");

    assertThat(all.getFirst()).isEqualTo("csv windows-1252 ;");
    assertThat(all.getLast()).isEqualTo("50002: 8 | Jørn");
  }

  @Test
  public void aTextThatIsUtf8HereAndNotThereIsRefusedWithItsPlaceAndBothReadings()
      throws IOException {
    var file = folder.resolve("mixed.csv");
    var bytes = new ByteArrayOutputStream();
    bytes.writeBytes("No;Name\r\n7;Karl Müller\r\n8;J".getBytes(StandardCharsets.UTF_8));
    bytes.write(0xF8);
    bytes.writeBytes("rn\r\n9;Zoë\r\n".getBytes(StandardCharsets.UTF_8));
    Files.write(file, bytes.toByteArray());

    var refusal = catchThrowableOfType(Refusal.class, () -> Tables.look(file, "mixed.csv"));

    assertThat(refusal.problems())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.code()).isEqualTo("file-encodings-mixed");
              assertThat(problem.what()).contains("line 3, column 4");
              assertThat(problem.why()).contains("Müller", "MÃ¼ller");
            });
    assertThat(Tables.look(file, "mixed.csv", "windows-1252").format().charset())
        .as("somebody said so")
        .isEqualTo("windows-1252");
  }

  @Test
  public void whoeverTakesAnOldTextForUtf8IsToldWhenItIsRead() throws IOException {
    var file = folder.resolve("old.csv");
    Files.write(file, "No;Name\n8;J\u00F8rn\n".getBytes("windows-1252"));
    var format = Tables.look(file, "old.csv", "UTF-8").format();

    var refusal =
        catchThrowableOfType(
            Refusal.class,
            () -> {
              try (var rows = Tables.open(file, "old.csv", format)) {
                rows.next();
              }
            });

    assertThat(refusal.problems()).extracting(Problem::code).containsExactly("file-not-text");
  }

  /** The second byte of an A with an acute accent is no letter of that encoding. */
  @Test
  public void aTextThatCouldNotEvenBeWindowsIsToldToBeMixedToo() throws IOException {
    var file = folder.resolve("neither.csv");
    var bytes = new ByteArrayOutputStream();
    bytes.writeBytes("No;Name\n7;Ágnes\n8;J".getBytes(StandardCharsets.UTF_8));
    bytes.write(0x81);
    bytes.writeBytes("n\n".getBytes(StandardCharsets.UTF_8));
    Files.write(file, bytes.toByteArray());

    assertThat(read(file, "neither.csv")).containsExactly("refused file-encodings-mixed 3");
  }

  /** Whatever stands around it, and at whatever edge of a buffer. */
  @Test
  public void oneByteThatIsNotUtf8IsFoundWhereverItStands() throws IOException {
    var random = Chance.random(11);
    var file = folder.resolve("one-byte.csv");
    for (int i = 0; i < 60; i++) {
      int lines = 2 + random.nextInt(3_000);
      int bad = 1 + random.nextInt(lines);
      var bytes = new ByteArrayOutputStream();
      for (int line = 1; line <= lines; line++) {
        bytes.writeBytes("%d,Łucja, ñandú€\n".formatted(line).getBytes(StandardCharsets.UTF_8));
        if (line == bad) {
          bytes.writeBytes(new byte[] {'x', (byte) (0xE0 + random.nextInt(16)), '\n'});
        }
      }
      Files.write(file, bytes.toByteArray());

      var found = Mixture.in(file).orElseThrow();

      assertThat(found.line()).as("of %d lines", lines).isEqualTo(bad + 1L);
      assertThat(found.column()).isEqualTo(2);
      assertThat(found.asUtf8()).isEqualTo("Łucja");
    }
  }

  @Test
  public void aLetterCutByTheEdgeOfABufferIsNoFault() throws IOException {
    var file = folder.resolve("edge.csv");
    Files.writeString(file, "No,Name\n" + "7," + "€".repeat(60_000) + "\n");

    assertThat(Tables.look(file, "edge.csv").format()).isEqualTo(Format.CSV);
  }

  @Test
  public void whatSomebodySaysOfAFileIsTakenInsteadOfWhatWasFound() throws IOException {
    var file = folder.resolve("said.csv");
    Files.write(file, "No;Name,Unit\n7;Jörg,Deck\n".getBytes(StandardCharsets.UTF_8));
    var found = Tables.look(file, "said.csv").format();

    var said = found.corrected("windows-1252", ",", null);

    try (var rows = Tables.open(file, "said.csv", said)) {
      assertThat(rows.headings()).containsExactly("No;Name", "Unit");
      assertThat(rows.next().orElseThrow().cells()).containsExactly("7;JÃ¶rg", "Deck");
    }
  }

  @Test
  public void anotherSheetIsReadIfItIsChosenAndNamedIfItIsNotThere() throws IOException {
    var file = CORPUS.resolve("workbook.xlsx");
    var found = Tables.look(file, "workbook.xlsx");
    assertThat(found.sheets()).containsExactly("Crew", "Notes");

    try (var rows =
        Tables.open(file, "workbook.xlsx", found.format().corrected(null, null, "Notes"))) {
      assertThat(rows.headings()).containsExactly("a note");
    }
    var refusal =
        catchThrowableOfType(
            Refusal.class,
            () -> Tables.open(file, "workbook.xlsx", found.format().corrected(null, null, "Gone")));
    assertThat(refusal.problems())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.code()).isEqualTo("sheet-unknown");
              assertThat(problem.why()).contains("Crew, Notes");
            });
  }

  private static String partner(String name) {
    return name.endsWith(GIVES) ? name.substring(0, name.length() - GIVES.length()) : name + GIVES;
  }

  private static List<String> read(Path file, String name) throws IOException {
    try {
      var format = Tables.look(file, name).format();
      var all = new ArrayList<>(List.of(words(format)));
      try (var rows = Tables.open(file, name, format)) {
        all.add(String.join(" | ", rows.headings()));
        for (var row = rows.next(); row.isPresent(); row = rows.next()) {
          all.add(
              row.get().line() + ": " + String.join(" | ", row.get().cells()).replace("\n", "\\n"));
        }
      }
      return all;
    } catch (Refusal refusal) {
      assertThat(refusal.problems()).hasSize(1);
      return List.of(words(refusal.problems().getFirst(), name));
    }
  }

  private static String words(Format format) {
    return Stream.of(
            format.kind().word(),
            format.charset(),
            "\t".equals(format.separator()) ? "TAB" : format.separator(),
            format.sheet())
        .filter(word -> word != null)
        .reduce((one, other) -> one + " " + other)
        .orElseThrow();
  }

  private static String words(Problem problem, String name) {
    assertThat(problem.where().file()).isEqualTo(name);
    assertThat(problem.what()).isNotBlank();
    assertThat(problem.why()).isNotBlank();
    assertThat(problem.remedy()).isNotBlank();
    var line = problem.where().line();
    return "refused " + problem.code() + (line == null ? "" : " " + line);
  }
}
