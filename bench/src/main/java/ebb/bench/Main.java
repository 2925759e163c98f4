package ebb.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/** Runs the benchmarks named, or all: a table, or with --json one object a line. */
public final class Main {
  private static final int PAIRS = 5;

  /**
   * evaluate-some gives evaluate-changed, evaluate-unit and rehearsal; import-changed is measured
   * with import-same; sync-ldap-first and -changed with sync-ldap.
   */
  private static final List<String> ALL =
      List.of(
          "list-people",
          "start-service",
          "start-client",
          "import-first",
          "changes-first",
          "import-same",
          "match-likeness",
          "feed-day",
          "evaluate-all",
          "evaluate-some",
          "departures-day",
          "apply-scim",
          "apply-scim-0",
          "journal-append",
          "sync-ldap",
          "apply-ldap",
          "handover-mail",
          "handover-files");

  public static void main(String[] arguments) throws Exception {
    // As the service has it.
    System.setProperty("h2.objectCache", "false");
    var given = Arrays.asList(arguments);
    var json = given.contains("--json");
    var quick = given.contains("--quick");
    var names = given.stream().filter(one -> !one.startsWith("--")).toList();
    if (!json) {
      System.out.println(Measured.heading());
    }
    for (var name : names.isEmpty() ? ALL : names) {
      for (var measured : measure(name, quick)) {
        System.out.println(json ? measured.json() : measured.line());
      }
    }
  }

  private static List<Measured> measure(String name, boolean quick) throws Exception {
    var root = Path.of("").toAbsolutePath();
    var java = ProcessHandle.current().info().command().orElseThrow();
    var folder = Files.createTempDirectory(Files.createDirectories(Path.of("bench/target")), "run");
    var files = new BringFiles(root, folder.toAbsolutePath(), PAIRS);
    try {
      return switch (name) {
        case "list-people" ->
            List.of(ListPeople.run(folder.toAbsolutePath(), quick ? 50_000 : 1_000_000, 15));
        case "start-service" ->
            List.of(Starting.service(root, folder.toAbsolutePath(), java, PAIRS));
        case "start-client" -> List.of(Starting.client(root, java, 15));
        case "import-first" -> List.of(files.first(quick ? 10_000 : 100_000));
        case "changes-first" -> List.of(files.changes(quick ? 10_000 : 100_000));
        case "import-same" -> files.same(quick ? 50_000 : 1_000_000);
        case "match-likeness" ->
            List.of(MatchLikeness.run(folder.toAbsolutePath(), quick ? 20_000 : 100_000, 15));
        case "evaluate-all" -> List.of(EvaluateAll.run(quick ? 10_000 : 100_000, PAIRS));
        case "evaluate-some" ->
            new EvaluateSome(root, folder.toAbsolutePath(), PAIRS).run(quick ? 10_000 : 100_000);
        case "feed-day" -> List.of(files.feedDay(quick ? 20_000 : 100_000));
        case "apply-scim" ->
            List.of(
                new ApplyScim(root, folder.toAbsolutePath(), PAIRS)
                    .run(name, quick ? 1_000 : 10_000, Duration.ofMillis(20), 1.25));
        case "apply-scim-0" ->
            List.of(
                new ApplyScim(root, folder.toAbsolutePath(), PAIRS)
                    .run(name, quick ? 1_000 : 10_000, Duration.ZERO, 4));
        case "journal-append" ->
            List.of(JournalAppend.run(folder.toAbsolutePath(), quick ? 10_000 : 100_000, PAIRS));
        case "apply-ldap" ->
            List.of(
                new ApplyLdap(root, folder.toAbsolutePath(), PAIRS).run(quick ? 1_000 : 10_000));
        case "departures-day" ->
            List.of(
                new DeparturesDay(root, folder.toAbsolutePath(), PAIRS).run(quick ? 100 : 1_000));
        case "handover-mail" -> List.of(new Handing(PAIRS).mail(quick ? 500 : 10_000));
        case "handover-files" -> List.of(new Handing(PAIRS).files(quick ? 500 : 10_000));
        case "sync-ldap" ->
            new SyncLdap(root, folder.toAbsolutePath(), PAIRS).run(quick ? 10_000 : 100_000);
        default ->
            throw new IllegalArgumentException(
                "There is no benchmark %s; there are %s.".formatted(name, String.join(", ", ALL)));
      };
    } finally {
      delete(folder);
    }
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
