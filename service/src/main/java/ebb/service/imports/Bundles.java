package ebb.service.imports;

import ebb.connectors.file.Bundle;
import ebb.connectors.file.Tables;
import ebb.core.imports.LinkedFile;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/** Tells the files of a bundle apart: the list of people, and what is linked to it. */
final class Bundles {
  /**
   * Unpacks an archive into a folder, with one folder below it for each linked file.
   *
   * @param name what the operator calls it
   * @return the list of people; empty where there is none
   * @throws Refusal if it holds two files of one kind, or one that cannot be read
   */
  static Optional<Path> unpack(Path archive, String name, Path folder) throws IOException {
    Bundle.unpack(archive, name, folder);
    var lists = new ArrayList<Path>();
    for (var file : files(folder)) {
      var kind = kind(file, name);
      if (kind.isEmpty()) {
        lists.add(file);
      } else {
        var below = Files.createDirectories(folder.resolve(kind.get().word()));
        mustBeOnly(name, kind.get(), below);
        Files.move(file, below.resolve(file.getFileName()));
      }
    }
    if (lists.size() > 1) {
      throw Refusal.invalid(twoLists(name, lists));
    }
    return lists.stream().findFirst();
  }

  /** The linked file of a kind in an unpacked bundle; pictures are a folder of their own. */
  static Optional<Path> file(Path folder, LinkedFile kind) throws IOException {
    var below = folder.resolve(kind.word());
    return Files.isDirectory(below) ? files(below).stream().findFirst() : Optional.empty();
  }

  /** In the order of their names, so that each has the same number whenever it is read. */
  static List<Path> pictures(Path folder) throws IOException {
    var below = folder.resolve(LinkedFile.PICTURES.word());
    return Files.isDirectory(below) ? files(below) : List.of();
  }

  private static List<Path> files(Path folder) throws IOException {
    try (var files = Files.list(folder)) {
      return List.copyOf(new TreeSet<>(files.filter(Files::isRegularFile).toList()));
    }
  }

  private static Optional<LinkedFile> kind(Path file, String name) throws IOException {
    var called = file.getFileName().toString();
    if (called.toLowerCase(Locale.ROOT).matches(".*\\.(jpe?g|png|gif|bmp|webp|tiff?|heic)")) {
      return Optional.of(LinkedFile.PICTURES);
    }
    var within = name + "/" + called;
    try (var rows = Tables.open(file, within, Tables.look(file, within).format())) {
      return LinkedFile.of(called, rows.headings());
    }
  }

  private static void mustBeOnly(String name, LinkedFile kind, Path below) throws IOException {
    if (kind != LinkedFile.PICTURES && !files(below).isEmpty()) {
      throw Refusal.invalid(
          new Problem(
              "bundle-doubled",
              "%s holds two files of %s.".formatted(name, kind.word()),
              "They may say different things of the same.",
              "Put them into one.",
              Where.file(name)));
    }
  }

  private static Problem twoLists(String name, List<Path> lists) {
    return new Problem(
        "bundle-unclear",
        "%s holds %d lists that may be of people: %s."
            .formatted(
                name,
                lists.size(),
                String.join(
                    ", ", lists.stream().map(one -> one.getFileName().toString()).toList())),
        "Files of units, groups and memberships are known by their names or headings; these are not.",
        "Call them units, groups and memberships; or leave out what does not belong.",
        Where.file(name));
  }

  private Bundles() {}
}
