package ebb.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class CellsTest {
  @DataProvider
  public Object[][] formulas() {
    return new Object[][] {{"=1+1"}, {"+47 555"}, {"-2"}, {"@sum"}, {"\t=1"}, {"\r=1"}, {"\n=1"}};
  }

  @Test(dataProvider = "formulas")
  public void whatASpreadsheetWouldReckonWithBecomesAText(String text) {
    assertThat(Cells.defused(text)).isEqualTo("'" + text);
  }

  @Test
  public void otherCellsStayAsTheyAre() {
    assertThat(Cells.defused("O'Brien = x")).isEqualTo("O'Brien = x");
    assertThat(Cells.defused(null)).isEmpty();
    assertThat(Cells.defused(42)).isEqualTo("42");
  }
}
