package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;

import ebb.connectors.file.Tables;
import ebb.core.imports.LinkedFile;
import ebb.core.imports.Row;
import ebb.core.imports.Suggestions;
import ebb.core.person.Attribute;
import ebb.core.person.Attribute.Type;
import ebb.core.person.ByHand;
import ebb.core.person.Catalogue;
import ebb.core.rule.Expressions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A template must be taken by Ebb itself, with nothing asked. */
public class TemplateTest {
  private static final Catalogue CATALOGUE =
      Catalogue.with(
          List.of(
              new Attribute(
                  "watch",
                  Type.CHOICE,
                  true,
                  null,
                  true,
                  ByHand.ALLOWED,
                  List.of("Day", "Night"),
                  true),
              new Attribute(
                  "berth", Type.NUMBER, false, null, false, ByHand.ALLOWED, List.of(), true)));

  private Path folder;

  @BeforeMethod
  void makeFolder() throws IOException {
    folder = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "template");
  }

  @DataProvider
  Object[][] formats() {
    return new Object[][] {{"people.csv"}, {"people.xlsx"}};
  }

  @Test(dataProvider = "formats")
  public void everyColumnOfATemplateIsKnownByItsHeading(String name) throws IOException {
    var file = folder.resolve(name);
    try (var out = Files.newOutputStream(file)) {
      if (name.endsWith("csv")) {
        Template.csv(CATALOGUE, out);
      } else {
        Template.workbook(CATALOGUE, out);
      }
    }

    try (var rows = Tables.open(file, name, Tables.look(file, name).format())) {
      var suggested = Suggestions.of(rows.headings(), List.of(), CATALOGUE, Set.of());
      assertThat(suggested.key()).startsWith("Employee number");
      assertThat(suggested.columns())
          .allSatisfy(column -> assertThat(column.attribute()).as(column.heading()).isNotNull());
      assertThat(suggested.mapping().problems(CATALOGUE, new Expressions())).isEmpty();
      assertThat(rows.headings())
          .contains("watch *", "berth")
          .anyMatch(one -> one.startsWith("Family name"));
    }
  }

  @Test(dataProvider = "formats")
  public void theExampleIsKnownForOneAndNothingElseIsWrongWithIt(String name) throws IOException {
    var file = folder.resolve(name);
    try (var out = Files.newOutputStream(file)) {
      if (name.endsWith("csv")) {
        Template.csv(CATALOGUE, out);
      } else {
        Template.workbook(CATALOGUE, out);
      }
    }

    try (var rows = Tables.open(file, name, Tables.look(file, name).format())) {
      var read = new ArrayList<Row>();
      for (var row = rows.next(); row.isPresent(); row = rows.next()) {
        read.add(row.get());
      }
      assertThat(read).hasSize(1);
      var layout =
          Suggestions.of(rows.headings(), read, CATALOGUE, Set.of())
              .mapping()
              .layout(name, rows.headings(), CATALOGUE, new Expressions());
      assertThat(layout.check(read.getFirst()).problems())
          .extracting(problem -> problem.code())
          .containsExactly("example-row");
    }
  }

  @Test
  public void aBundleOfTemplatesIsToldApartAsOne() throws IOException {
    var zip = folder.resolve("bundle.zip");
    try (var out = Files.newOutputStream(zip)) {
      Template.bundle(CATALOGUE, out);
    }
    var into = Files.createDirectory(folder.resolve("into"));

    assertThat(Bundles.unpack(zip, "bundle.zip", into).orElseThrow()).hasFileName("people.csv");
    for (var file : List.of(LinkedFile.UNITS, LinkedFile.GROUPS, LinkedFile.MEMBERSHIPS)) {
      assertThat(Bundles.file(into, file)).as(file.word()).isPresent();
    }
  }
}
