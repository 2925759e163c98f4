package ebb.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;

/**
 * Runs the benchmarks named, or all: a table, or with --json one object a line. What a figure is
 * compared with stands first, and before all of them how fast the machine is.
 */
public final class Main {
  private static final Path ROOT = Path.of("").toAbsolutePath();
  private static final String JAVA = ProcessHandle.current().info().command().orElseThrow();

  private interface Run {
    List<Measured> run(Path folder, Trial trial) throws Exception;
  }

  /**
   * A benchmark.
   *
   * @param gives the names of its figures; it is run by any of them
   * @param quick small, and yet long enough that its ratios mean what those of the whole one do
   */
  private record Bench(List<String> gives, Trial whole, Trial quick, Run run) {}

  private static final List<Bench> ALL =
      List.of(
          new Bench(
              List.of("list-people"),
              Trial.of(1_000_000, 100, 15),
              Trial.of(20_000, 30, 7),
              (folder, trial) -> List.of(ListPeople.run(folder, trial))),
          new Bench(
              List.of("start-service"),
              Trial.of(1, 1, 5),
              Trial.of(1, 0, 1),
              (folder, trial) -> List.of(Starting.service(ROOT, folder, JAVA, trial))),
          new Bench(
              List.of("start-client"),
              Trial.of(1, 2, 15),
              Trial.of(1, 2, 7),
              (_, trial) -> List.of(Starting.client(ROOT, JAVA, trial))),
          new Bench(
              List.of("import-first", "changes-first"),
              Trial.of(100_000, 1, 5),
              Trial.of(20_000, 2, 2).less(1_000),
              (folder, trial) -> new BringFiles(ROOT, folder, trial).first()),
          new Bench(
              List.of("import-same", "import-changed", "feed-day"),
              // What changed rows cost is a tenth of the whole: one run differs from the next by
              // more. Code that judges rows runs for a second a round: it takes some to be
              // compiled.
              Trial.of(1_000_000, 3, 11),
              Trial.of(100_000, 3, 5).less(1_000),
              (folder, trial) -> new BringFiles(ROOT, folder, trial).same()),
          new Bench(
              List.of("match-likeness"),
              Trial.of(100_000, 15, 15),
              Trial.of(20_000, 8, 5),
              (folder, trial) -> List.of(MatchLikeness.run(folder, trial))),
          new Bench(
              List.of("evaluate-all"),
              Trial.of(100_000, 2, 5),
              Trial.of(5_000, 2, 3),
              (_, trial) -> List.of(EvaluateAll.run(trial))),
          new Bench(
              List.of("evaluate-changed", "evaluate-unit", "rehearsal"),
              Trial.of(100_000, 1, 5),
              Trial.of(2_500, 1, 3),
              (folder, trial) -> new EvaluateSome(ROOT, folder, trial).run()),
          new Bench(
              List.of("departures-day"),
              Trial.of(1_000, 1, 5),
              Trial.of(60, 1, 1).less(10),
              (folder, trial) -> List.of(new DeparturesDay(ROOT, folder, trial).run())),
          new Bench(
              List.of("apply-scim", "apply-scim-0"),
              Trial.of(10_000, 1, 5),
              Trial.of(400, 1, 2).less(50),
              (folder, trial) -> new ApplyScim(ROOT, folder, trial).run()),
          new Bench(
              List.of("journal-append"),
              Trial.of(100_000, 1, 5),
              Trial.of(50_000, 1, 3),
              (folder, trial) -> List.of(JournalAppend.run(folder, trial))),
          new Bench(
              List.of("sync-ldap-first", "sync-ldap", "sync-ldap-changed"),
              Trial.of(100_000, 1, 5),
              Trial.of(5_000, 1, 2),
              (folder, trial) -> new SyncLdap(ROOT, folder, trial).run()),
          new Bench(
              List.of("apply-ldap"),
              Trial.of(10_000, 1, 5),
              Trial.of(500, 1, 2).less(50),
              (folder, trial) -> List.of(new ApplyLdap(ROOT, folder, trial).run())),
          new Bench(
              List.of("handover-mail"),
              Trial.of(10_000, 1, 5),
              Trial.of(250, 1, 2),
              (_, trial) -> List.of(new Handing(trial).mail())),
          new Bench(
              List.of("handover-files"),
              Trial.of(10_000, 1, 5),
              Trial.of(300, 1, 3),
              (_, trial) -> List.of(new Handing(trial).files())));

  public static void main(String[] arguments) throws Exception {
    // As the service has it.
    System.setProperty("h2.objectCache", "false");
    var given = Arrays.asList(arguments);
    var json = given.contains("--json");
    var quick = given.contains("--quick");
    var names = given.stream().filter(one -> !one.startsWith("--")).toList();
    var chosen = names.isEmpty() ? ALL : names.stream().map(Main::named).distinct().toList();
    var folder =
        Files.createTempDirectory(Files.createDirectories(Path.of("bench/target")), "run")
            .toAbsolutePath();
    try {
      if (!json) {
        System.out.println(Machine.speed(folder));
        System.out.println(Measured.heading());
      }
      for (var bench : chosen) {
        var home = Files.createDirectory(folder.resolve(bench.gives().getFirst()));
        for (var one : bench.run().run(home, quick ? bench.quick() : bench.whole())) {
          System.out.println(json ? one.json() : one.line());
        }
        delete(home);
      }
    } finally {
      delete(folder);
    }
  }

  private static Bench named(String name) {
    return ALL.stream()
        .filter(bench -> bench.gives().contains(name))
        .findFirst()
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    "There is no benchmark %s; there are %s."
                        .formatted(
                            name,
                            ALL.stream()
                                .flatMap(bench -> bench.gives().stream())
                                .collect(Collectors.joining(", ")))));
  }

  private static void delete(Path folder) throws IOException {
    try (var files = Files.walk(folder)) {
      for (var file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(file);
      }
    }
  }

  private Main() {}
}
