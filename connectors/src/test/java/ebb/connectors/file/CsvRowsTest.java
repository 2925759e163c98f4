package ebb.connectors.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.imports.Row;
import ebb.core.problem.Refusal;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class CsvRowsTest {
  @Test
  public void readsQuotedValuesLineEndsAndAByteOrderMark() throws IOException {
    var rows =
        read(
            "\uFEFFNo,Name\r\n7,\"Holm, Ida\"\n8,\"two\nlines\"\r\n\r\n9,last"
                .getBytes(StandardCharsets.UTF_8));

    assertThat(rows)
        .containsExactly(
            new Row(1, List.of("No", "Name")),
            new Row(2, List.of("7", "Holm, Ida")),
            new Row(3, List.of("8", "two\nlines")),
            new Row(6, List.of("9", "last")));
  }

  @Test
  public void leavesRowsOfAnotherWidthToTheCheck() throws IOException {
    assertThat(read("a,b,c\n1\n1,2,3,4\n".getBytes(StandardCharsets.UTF_8)))
        .extracting(row -> row.cells().size())
        .containsExactly(3, 1, 4);
  }

  @DataProvider
  Object[][] broken() {
    return new Object[][] {
      {"file-empty", new byte[0]},
      {"file-not-text", new byte[] {'N', 'o', '\n', (byte) 0xC3, (byte) 0x28, '\n'}},
      {"file-not-text", new byte[] {(byte) 0xFF, (byte) 0xFE, 'N', 0, 'o', 0}},
      {"file-not-text", new byte[] {'N', 'o', '\n', 'a', 0, 'b', '\n'}},
      {"file-not-csv", "No,Name\n7,\"never closed".getBytes(StandardCharsets.UTF_8)},
    };
  }

  @Test(dataProvider = "broken")
  public void saysWhatAFileIsThatCannotBeRead(String code, byte[] bytes) {
    var refusal = catchThrowableOfType(Refusal.class, () -> read(bytes));

    assertThat(refusal.problems())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.code()).isEqualTo(code);
              assertThat(problem.where().file()).isEqualTo("hr.csv");
              assertThat(problem.remedy()).isNotBlank();
            });
  }

  /** The headings as row 1, then the rows. */
  private static List<Row> read(byte[] bytes) throws IOException {
    var file = Files.createTempFile(Files.createDirectories(Path.of("target/csv")), "hr", ".csv");
    Files.write(file, bytes);
    var all = new ArrayList<Row>();
    try (var rows = CsvRows.open(file, "hr.csv")) {
      all.add(new Row(1, rows.headings()));
      for (var row = rows.next(); row.isPresent(); row = rows.next()) {
        all.add(row.get());
      }
    }
    return all;
  }
}
