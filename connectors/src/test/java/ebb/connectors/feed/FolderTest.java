package ebb.connectors.feed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class FolderTest {
  private static final Instant NOW = Instant.parse("2026-11-23T05:30:00Z");

  private Path path;
  private Folder folder;

  @BeforeMethod
  void start() throws IOException {
    path =
        Files.createTempDirectory(Files.createDirectories(Path.of("target/folders")), "in")
            .toAbsolutePath();
    folder = folder(path, "*.csv");
  }

  @Test
  public void aFileIsTakenOnceItStandsUnchanged() throws Exception {
    var file = Files.writeString(path.resolve("people.csv"), "No\n1\n");
    assertThat(folder.ready()).as("nobody knows yet whether it is whole").isEmpty();
    Files.writeString(file, "2\n", StandardOpenOption.APPEND);
    assertThat(folder.ready()).as("it has grown").isEmpty();
    assertThat(folder.ready()).containsExactly(file);
  }

  @Test
  public void whatIsNotWholeByItsNameOrNotAskedForIsLeftAlone() throws Exception {
    for (var name :
        new String[] {".people.csv", "people.csv.part", "people.csv.tmp", "notes.txt"}) {
      Files.writeString(path.resolve(name), "x");
    }
    Files.createSymbolicLink(path.resolve("linked.csv"), path.resolve("notes.txt"));
    folder.ready();
    assertThat(folder.ready()).isEmpty();
  }

  @Test
  public void theOldestComesFirst() throws Exception {
    var second = Files.writeString(path.resolve("a.csv"), "x");
    var first = Files.writeString(path.resolve("b.csv"), "x");
    Files.setLastModifiedTime(first, FileTime.from(NOW.minusSeconds(60)));
    Files.setLastModifiedTime(second, FileTime.from(NOW));
    folder.ready();
    assertThat(folder.ready()).containsExactly(first, second);
  }

  @Test
  public void whatWasTakenIsFoundAgainAfterACrash() throws Exception {
    var taken = folder.take(Files.writeString(path.resolve("people.csv"), "x"));
    assertThat(folder(path, "*.csv").left()).containsExactly(taken);
    folder.archive(taken, NOW);
    assertThat(folder.left()).isEmpty();
    assertThat(path.resolve("archive/20261123T053000Z-people.csv")).exists();
  }

  @Test
  public void twoOfOneNameAreBothKept() throws Exception {
    for (int i = 0; i < 2; i++) {
      folder.archive(folder.take(Files.writeString(path.resolve("people.csv"), "x")), NOW);
    }
    try (var kept = Files.list(path.resolve("archive"))) {
      assertThat(kept).hasSize(2);
    }
  }

  @Test
  public void whatCannotBeReadLiesBesideTheReason() throws Exception {
    var taken = folder.take(Files.writeString(path.resolve("people.csv"), "x"));
    folder.quarantine(taken, new Problem("x", "It is no table.", "Why.", "Mend it.", null), NOW);
    assertThat(path.resolve("quarantine/20261123T053000Z-people.csv")).exists();
    assertThat(path.resolve("quarantine/20261123T053000Z-people.csv.why.txt"))
        .content()
        .contains("It is no table.", "Mend it.");
  }

  @Test
  public void aFolderThatIsNotThereIsSaid() {
    var amiss =
        catchThrowableOfType(Undelivered.class, () -> folder(path.resolve("nowhere"), "*").ready());
    assertThat(amiss.problem().code()).isEqualTo("feed-folder-amiss");
    assertThat(amiss.isPassing()).isTrue();
  }

  private static Folder folder(Path path, String names) {
    return new Folder(
        new Origin(
            Origin.Kind.FOLDER,
            new TreeMap<>(Map.of(Origin.PATH, path.toString(), Origin.NAMES, names))));
  }
}
