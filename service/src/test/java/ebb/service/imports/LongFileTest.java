package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.service.InProcess;
import java.nio.file.Files;
import org.testng.annotations.Test;

/** A file of fifty thousand people is read right to its last row, and each row can be looked at. */
public class LongFileTest {
  private static final int PEOPLE = 50_000;

  @Test
  public void theLastRowOfFiftyThousandIsReadAndShownAsTheFirst() throws Exception {
    var home = InProcess.stage().home();
    var columns =
        """
        {"rank": 20, "key": "No", "columns": {"Family": "name.familyName",
         "Given": "name.givenName", "Kind": "userType"}}
        """;
    InProcess.client()
        .done("sources", "put", "long", Files.writeString(home.resolve("long.json"), columns) + "");
    var text = new StringBuilder("No,Family,Given,Kind\n");
    for (int i = 1; i <= PEOPLE; i++) {
      text.append("L%05d,Longa%05d,Idara%05d,guest\n".formatted(i, i, i * 7 % PEOPLE));
    }
    // Without a line end after it, and refused.
    text.append("L99999,Last,Of all,no such kind,and more");
    var file = Files.writeString(home.resolve("long.csv"), text);

    var made = InProcess.client().json("imports", "add", file.toString(), "--source=long");

    var id = made.path("id").asString();
    assertThat(made.at("/counts/new").asInt()).isEqualTo(PEOPLE);
    assertThat(made.at("/counts/refused").asInt()).isEqualTo(1);
    var rows =
        InProcess.client()
            .json("imports", "rows", id, "--verdict=new", "--limit=" + 2 * PEOPLE)
            .path("items");
    assertThat(rows).hasSize(PEOPLE);
    var lines = rows.valueStream().mapToLong(row -> row.path("line").asLong()).toArray();
    assertThat(lines).isSorted().doesNotHaveDuplicates().contains(2, PEOPLE + 1);
    var last = rows.get(PEOPLE - 1);
    assertThat(last.path("key").asString()).isEqualTo("L50000");
    assertThat(last.toString()).contains("Longa50000");
    var refused =
        InProcess.client().json("imports", "rows", id, "--verdict=refused").path("items").get(0);
    assertThat(refused.path("line").asInt()).isEqualTo(PEOPLE + 2);
    assertThat(refused.toString()).contains("row-width", "long.csv, line 50002");
    InProcess.client().done("changes", "discard", made.path("changeSet").asString());
  }
}
