package ebb.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Files of invented people, as the demo's HR lists them. */
final class People {
  /** Those of another round are others. */
  static Path file(Path folder, int round, int count) throws IOException {
    var file = folder.resolve("people-%d.csv".formatted(round));
    try (var out = Files.newBufferedWriter(file)) {
      out.write(
          "Staff no,Family name,Given name,Job,Unit,Island,Line manager,Contract,Private mail,"
              + "Mobile,First day,Last day,Payroll group");
      out.newLine();
      for (int i = 0; i < count; i++) {
        out.write(
            "%d-%06d,%s,%s,Mate,Deck,Skerrow,,employee,,,01.03.2026,,"
                .formatted(round, i, word(round * 1_000_000L + i), word(i * 31L + round)));
        out.newLine();
      }
    }
    return file;
  }

  private static String word(long number) {
    var letters = new StringBuilder();
    for (long left = number * 2_654_435_761L + 7; letters.length() < 8; left = left / 26 + 11) {
      letters.append((char) ('a' + Math.floorMod(left, 26)));
    }
    return letters.toString();
  }

  private People() {}
}
