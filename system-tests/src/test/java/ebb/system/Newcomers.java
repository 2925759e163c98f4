package ebb.system;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;

/** People nobody knows yet, as the demo's HR lists them; no two alike enough to be asked about. */
final class Newcomers {
  private static final String HEADINGS =
      "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,Mobile,"
          + "First day,Last day,Payroll group\n";

  /** A file of so many; those of another round are others. */
  static Path file(Path folder, int round, int count) throws IOException {
    var text = new StringBuilder(HEADINGS);
    for (int i = 0; i < count; i++) {
      text.append(
          "%d-%04d,%s,%s,Mate,Deck,Skerrow,,employee,,,01.03.2026,,\n"
              .formatted(round, i, family(round, i), given(i)));
    }
    return Files.writeString(folder.resolve("newcomers-%d.csv".formatted(round)), text);
  }

  /** The name by which one of them signs in. */
  static String login(int round, int i) {
    return (given(i) + "." + family(round, i)).toLowerCase(Locale.ROOT);
  }

  private static String family(int round, int i) {
    return word(round * 100_000 + i);
  }

  private static String given(int i) {
    return word(-1 - i);
  }

  private static String word(int number) {
    var random = new Random(number);
    var letters = new StringBuilder();
    for (int i = 0; i < 8; i++) {
      letters.append((char) ((i == 0 ? 'A' : 'a') + random.nextInt(26)));
    }
    return letters.toString();
  }

  private Newcomers() {}
}
