package ebb.service.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.imports.LinkedFile;
import ebb.core.problem.Refusal;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class BundlesTest {
  private static final String PEOPLE = "Staff no,Family name,Given name,Unit\n1,Holm,Ida,D\n";

  private Path folder;

  @BeforeMethod
  void makeFolder() throws IOException {
    folder = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "bundles");
  }

  @Test
  public void eachFileOfABundleFindsItsPlace() throws IOException {
    var people =
        unpack(
            "staff.csv", PEOPLE,
            "tree.csv", "Unit;Name;Parent\nD;Deck;\n",
            "rights.csv", "Staff no\tGroup\n1\tG\n",
            "groups.json", "{\"group\": \"G\", \"application\": \"house\"}\n",
            "b/2.JPG", "x",
            "b/1.png", "x");

    assertThat(people.orElseThrow()).hasFileName("staff.csv");
    assertThat(Bundles.file(folder, LinkedFile.UNITS))
        .get()
        .isEqualTo(folder.resolve("units/tree.csv"));
    assertThat(Bundles.file(folder, LinkedFile.MEMBERSHIPS)).isPresent();
    assertThat(Bundles.file(folder, LinkedFile.GROUPS)).isPresent();
    assertThat(Bundles.pictures(folder))
        .extracting(file -> file.getFileName().toString())
        .containsExactly("1.png", "2.JPG");
  }

  @Test
  public void aBundleNeedsNoListOfPeople() throws IOException {
    assertThat(unpack("1.jpg", "x")).isEmpty();
    assertThat(Bundles.file(folder, LinkedFile.UNITS)).isEmpty();
  }

  @Test
  public void twoListsOrTwoFilesOfOneKindAreRefused() throws IOException {
    assertThat(code("a.csv", PEOPLE, "b.csv", PEOPLE)).isEqualTo("bundle-unclear");
    makeFolder();
    assertThat(code("units.csv", "Unit,Name\n1,x\n", "units-old.csv", "Unit,Name\n1,y\n"))
        .isEqualTo("bundle-doubled");
    makeFolder();
    assertThat(code("people.csv", "\u0001\u0000\u0002")).isEqualTo("file-not-text");
  }

  private Optional<Path> unpack(String... files) throws IOException {
    var zip = Files.createTempFile(folder.getParent(), "b", ".zip");
    try (var out = new ZipOutputStream(Files.newOutputStream(zip))) {
      for (int i = 0; i < files.length; i += 2) {
        out.putNextEntry(new ZipEntry(files[i]));
        out.write(files[i + 1].getBytes(StandardCharsets.UTF_8));
      }
    }
    return Bundles.unpack(zip, "b.zip", folder);
  }

  private String code(String... files) {
    return catchThrowableOfType(Refusal.class, () -> unpack(files)).problems().getFirst().code();
  }
}
