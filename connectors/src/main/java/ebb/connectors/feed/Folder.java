package ebb.connectors.feed;

import ebb.core.feed.Origin;
import ebb.core.feed.Undelivered;
import ebb.core.problem.Problem;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A watched folder. A file is taken once it has stood unchanged from one look to the next: it is
 * moved into {@code taken} in one step, so that nobody writes into it any more, and from there into
 * {@code archive}, or into {@code quarantine} beside a text that says why.
 */
public final class Folder {
  private static final String TAKEN = "taken";
  private static final String ARCHIVE = "archive";
  private static final String QUARANTINE = "quarantine";
  private static final int MOST_FILES = 1_000;
  private static final DateTimeFormatter STAMP =
      DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  /** Names under which programs write what is not whole yet. */
  private static final List<String> UNFINISHED =
      List.of(".part", ".tmp", ".filepart", ".crdownload");

  private final Path path;
  private final String names;
  private Map<Path, Look> before = Map.of();

  /** What a file was like when it was last looked at. */
  private record Look(long size, Instant modified) {}

  public Folder(Origin origin) {
    this.path = Path.of(origin.setting(Origin.PATH));
    this.names = origin.setting(Origin.NAMES).isEmpty() ? "*" : origin.setting(Origin.NAMES);
  }

  /**
   * Files that can be taken: they are as they were at the last look. The oldest come first, and
   * those that were taken before and not put away before all others.
   *
   * @throws Undelivered if the folder cannot be read
   */
  public List<Path> ready() throws Undelivered {
    var now = new HashMap<Path, Look>();
    var ready = new ArrayList<Path>();
    var matcher = FileSystems.getDefault().getPathMatcher("glob:" + names);
    try (var files = files(path)) {
      for (var file : files) {
        var name = file.getFileName();
        if (isWhole(name.toString()) && matcher.matches(name) && now.size() < MOST_FILES) {
          look(file, now, ready);
        }
      }
    } catch (IOException e) {
      throw Amiss.folderAmiss(path.toString(), Amiss.said(e));
    }
    ready.sort(
        Comparator.comparing((Path file) -> now.get(file).modified())
            .thenComparing(Path::toString));
    before = now;
    return ready;
  }

  private void look(Path file, Map<Path, Look> now, List<Path> ready) throws IOException {
    var found = Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
    if (found.isRegularFile()) {
      var look = new Look(found.size(), found.lastModifiedTime().toInstant());
      now.put(file, look);
      if (look.equals(before.get(file))) {
        ready.add(file);
      }
    }
  }

  private static DirectoryStream<Path> files(Path folder) throws IOException {
    return Files.newDirectoryStream(folder);
  }

  private static boolean isWhole(String name) {
    return !name.startsWith(".") && UNFINISHED.stream().noneMatch(name::endsWith);
  }

  /** Files that were taken when a crash came. */
  public List<Path> left() throws Undelivered {
    var taken = path.resolve(TAKEN);
    if (Files.notExists(taken)) {
      return List.of();
    }
    var left = new ArrayList<Path>();
    try (var files = files(taken)) {
      files.forEach(left::add);
    } catch (IOException e) {
      throw Amiss.folderAmiss(taken.toString(), Amiss.said(e));
    }
    left.sort(Comparator.naturalOrder());
    return left;
  }

  /**
   * Takes a file, in one step.
   *
   * @return where it lies now
   */
  public Path take(Path file) throws Undelivered {
    return move(file, path.resolve(TAKEN), file.getFileName().toString());
  }

  /** Puts a file that was taken where what was read is kept. */
  public void archive(Path taken, Instant at) throws Undelivered {
    move(taken, path.resolve(ARCHIVE), stamped(taken, at));
  }

  /** Puts a file that cannot be read aside, and a text beside it that says why. */
  public void quarantine(Path taken, Problem why, Instant at) throws Undelivered {
    var name = stamped(taken, at);
    var there = move(taken, path.resolve(QUARANTINE), name);
    try {
      Files.writeString(
          there.resolveSibling(name + ".why.txt"),
          "%s%n%s%n%s%n".formatted(why.what(), why.why(), why.remedy()));
    } catch (IOException e) {
      throw Amiss.folderAmiss(there.getParent().toString(), Amiss.said(e));
    }
  }

  private static String stamped(Path file, Instant at) {
    return STAMP.format(at) + "-" + file.getFileName();
  }

  private static Path move(Path file, Path folder, String name) throws Undelivered {
    try {
      Files.createDirectories(folder);
      return Files.move(file, free(folder, name), StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw Amiss.folderAmiss(folder.toString(), Amiss.said(e));
    }
  }

  /** Two deliveries of one name within a second are both kept. */
  private static Path free(Path folder, String name) {
    var free = folder.resolve(name);
    for (int i = 2; Files.exists(free); i++) {
      free = folder.resolve(i + "-" + name);
    }
    return free;
  }
}
