package ebb.cli;

import static ebb.cli.Output.column;
import static org.assertj.core.api.Assertions.assertThat;

import ebb.api.Listing;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class OutputTest {
  private record Line(String name, Object value) {}

  @Test
  public void columnsStandUnderEachOtherWhateverTheScript() {
    var said =
        print(
            Output.Format.table, null, new Line("Ida", 1), new Line("健太", 2), new Line("Þóra", 3));

    assertThat(said.lines()).containsExactly("NAME  VALUE", "Ida   1", "健太  2", "Þóra  3");
  }

  @Test
  public void anEmptyListSaysWhatToDoNext() {
    assertThat(print(Output.Format.table, null))
        .isEqualTo("Nothing here. Begin with: ebb imports add\n");
  }

  @Test
  public void aListThatGoesOnSaysSo() {
    assertThat(print(Output.Format.table, "cursor", new Line("Ida", 1)))
        .endsWith("(1 shown, of 9; --limit shows more)\n");
  }

  @DataProvider
  Object[][] formulas() {
    return new Object[][] {{"=1+1"}, {"+47 555"}, {"-1"}, {"@SUM(A1)"}, {"\t=1"}};
  }

  @Test(dataProvider = "formulas")
  public void noCellOfAnExportIsTakenForAFormula(String cell) {
    var said = print(Output.Format.csv, null, new Line("Ida", cell));

    assertThat(said).contains("'" + cell);
  }

  @Test
  public void jsonHoldsTheWholeList() {
    var json = Service.JSON.readTree(print(Output.Format.json, "cursor", new Line("Ida", 1)));

    assertThat(json.at("/items/0/name").asString()).isEqualTo("Ida");
    assertThat(json.path("next").asString()).isEqualTo("cursor");
  }

  @Test
  public void widthsAreThoseOfTheTerminal() {
    assertThat(Output.width("Þóra")).isEqualTo(4);
    assertThat(Output.width("健太")).isEqualTo(4);
    assertThat(Output.width("지우")).isEqualTo(4);
    assertThat(Output.width("a\u0301")).isEqualTo(1);
  }

  private static String print(Output.Format format, String next, Line... lines) {
    var said = new StringWriter();
    new Output(new PrintWriter(said, true), format)
        .list(
            new Listing<>(List.of(lines), next, 9L, null),
            "Nothing here. Begin with: ebb imports add",
            List.of(column("NAME", Line::name), column("VALUE", Line::value)));
    return said.toString();
  }
}
