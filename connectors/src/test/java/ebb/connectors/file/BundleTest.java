package ebb.connectors.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.problem.Refusal;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class BundleTest {
  private Path folder;

  @BeforeMethod
  void makeFolder() throws IOException {
    folder = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "bundle");
  }

  @Test
  public void filesAreUnpackedIntoOneFolderAndWhatProgramsLeftIsNot() throws IOException {
    var zip = zip("a/people.csv", "pictures/7.jpg", "__MACOSX/._x", ".hidden", "Thumbs.db", "a/");

    Bundle.unpack(zip, "b.zip", folder);

    assertThat(folder).isDirectoryContaining("glob:**people.csv");
    try (var files = Files.list(folder)) {
      assertThat(files.map(file -> file.getFileName().toString()))
          .containsExactlyInAnyOrder("people.csv", "7.jpg");
    }
  }

  @Test
  public void noNameLeadsOutOfTheFolder() throws IOException {
    Bundle.unpack(zip("../../outside.csv", "..\\..\\other.csv"), "b.zip", folder);

    assertThat(folder.resolve("outside.csv")).exists();
    assertThat(folder.resolve("other.csv")).exists();
  }

  @Test
  public void anArchiveThatSwellsIsNotUnpackedToItsEnd() throws IOException {
    var zip = folder.resolveSibling("bomb.zip");
    try (var out = new ZipOutputStream(new BufferedOutputStream(Files.newOutputStream(zip)))) {
      var zeros = new byte[1 << 20];
      out.putNextEntry(new ZipEntry("people.csv"));
      for (int i = 0; i < 64; i++) {
        out.write(zeros);
      }
    }

    assertThat(
            catchThrowableOfType(Refusal.class, () -> Bundle.unpack(zip, "b.zip", folder, 8 << 20))
                .problems()
                .getFirst()
                .code())
        .isEqualTo("file-swells");
    assertThat(Files.size(folder.resolve("people.csv"))).isLessThan(9 << 20);
  }

  @Test
  public void whatSwellsAHundredfoldIsGivenUpLongBeforeTheMostThereMayBe() throws IOException {
    var zip = folder.resolveSibling("ratio.zip");
    try (var out = new ZipOutputStream(new BufferedOutputStream(Files.newOutputStream(zip)))) {
      var zeros = new byte[1 << 20];
      out.putNextEntry(new ZipEntry("people.csv"));
      for (int i = 0; i < 100; i++) {
        out.write(zeros);
      }
    }

    assertThat(code(zip)).isEqualTo("file-swells");
    assertThat(Files.size(folder.resolve("people.csv"))).isLessThan(65 << 20);
  }

  @Test
  public void twoFilesOfOneNameAreRefused() throws IOException {
    assertThat(code(zip("a/7.jpg", "b/7.jpg"))).isEqualTo("bundle-name-doubled");
  }

  @Test
  public void anArchiveWithoutFilesIsEmpty() throws IOException {
    assertThat(code(zip(".nothing"))).isEqualTo("file-empty");
  }

  @Test
  public void aWorkbookIsNoBundleAndNeitherIsWhatIsCutOff() throws IOException {
    assertThat(Bundle.isOne(zip("people.csv"))).isTrue();
    assertThat(Bundle.isOne(zip("xl/workbook.xml"))).isFalse();
    assertThat(Bundle.isOne(Files.write(folder.resolve("cut"), new byte[] {'P', 'K', 3, 4, 0})))
        .isFalse();
    assertThat(Bundle.isOne(Files.writeString(folder.resolve("text"), "No,Name"))).isFalse();
  }

  private String code(Path zip) {
    return catchThrowableOfType(Refusal.class, () -> Bundle.unpack(zip, "b.zip", folder))
        .problems()
        .getFirst()
        .code();
  }

  private Path zip(String... names) throws IOException {
    var zip = Files.createTempFile(folder.getParent(), "b", ".zip");
    try (var out = new ZipOutputStream(Files.newOutputStream(zip))) {
      for (var name : Arrays.asList(names)) {
        out.putNextEntry(new ZipEntry(name));
        out.write("x".getBytes(StandardCharsets.UTF_8));
      }
    }
    return zip;
  }
}
