package ebb.connectors.file;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.core.Chance;
import ebb.core.imports.Format;
import ebb.core.imports.Lines;
import ebb.core.imports.Row;
import ebb.core.imports.Rows;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A file read again for some of its rows gives what it gave when all were read. */
public class SomeRowsTest {
  private static final List<String> ENDS = List.of("\n", "\r\n", "\r");
  private static final List<String> VALUES =
      List.of("Ida", "Łucja", "\"Ida, the elder\"", "\"two\nlines\"", "\"three\r\n\r\nlines\"", "");

  private Path folder;

  @BeforeClass
  void makeFolder() throws IOException {
    folder = Files.createDirectories(Path.of("target/some-rows"));
  }

  @DataProvider
  Object[][] files() {
    return new Object[][] {
      {"UTF-8", 1L}, {"UTF-8", 2L}, {"UTF-8", 3L}, {"UTF-16LE", 4L}, {"ISO-8859-2", 5L}
    };
  }

  @Test(dataProvider = "files")
  public void anyRowsOfAFileAreFoundAgainInTheirLines(String charset, long seed)
      throws IOException {
    var random = Chance.random(seed);
    for (int i = 0; i < 60; i++) {
      var file = folder.resolve("rows-%s-%d".formatted(charset, i));
      // Some are of many blocks.
      int rows = 1 + random.nextInt(i % 6 == 0 ? 4_000 : 40);
      Files.writeString(file, text(random, rows), Charset.forName(charset));
      var format = new Format(Format.Kind.CSV, charset, ",", null);
      var passes = new TwoPasses(file, "rows.csv", format);
      var all = rows(passes.first());
      int apart = i % 12 == 0 ? 400 : 4;
      var chosen = new ArrayList<Row>();
      var lines = new ArrayList<Lines>();
      for (int row = 0; row < all.size(); row++) {
        if (random.nextInt(apart) == 0) {
          chosen.add(all.get(row));
          lines.add(
              new Lines(
                  all.get(row).line(),
                  row + 1 < all.size() ? all.get(row + 1).line() : Long.MAX_VALUE));
        }
      }
      if (!lines.isEmpty()) {
        assertThat(rows(passes.again(lines)))
            .as("file %d of seed %d", i, seed)
            .containsExactlyElementsOf(chosen);
      }
    }
  }

  private static String text(Random random, int rows) {
    var text = new StringBuilder("No,Name" + one(ENDS, random));
    for (int row = 0; row < rows; row++) {
      text.append("%07d,".formatted(row)).append(one(VALUES, random));
      if (row + 1 < rows || random.nextBoolean()) {
        text.append(one(ENDS, random));
      }
      if (random.nextInt(8) == 0) {
        text.append(one(ENDS, random));
      }
    }
    return text.toString();
  }

  private static <T> T one(List<T> of, Random random) {
    return of.get(random.nextInt(of.size()));
  }

  private static List<Row> rows(Rows rows) throws IOException {
    var all = new ArrayList<Row>();
    try (rows) {
      for (var row = rows.next(); row.isPresent(); row = rows.next()) {
        all.add(row.get());
      }
    }
    return all;
  }
}
