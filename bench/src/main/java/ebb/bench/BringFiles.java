package ebb.bench;

import com.dynatrace.hash4j.hashing.Hashing;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import ebb.core.imports.Layout;
import ebb.core.imports.Mapping;
import ebb.core.imports.Print;
import ebb.core.imports.Row;
import ebb.core.imports.Source;
import ebb.core.imports.Terms;
import ebb.core.name.LoginScheme;
import ebb.core.person.Assertions;
import ebb.core.person.Catalogue;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.rule.Expressions;
import ebb.demo.Client;
import ebb.demo.ServiceProcess;
import ebb.demo.SetUp;
import ebb.demo.Stage;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Files brought in by the real service, with 512 MB of heap, from the first byte sent until what
 * they would do is shown; against the bare libraries and the bare database doing as much.
 */
final class BringFiles {
  private static final List<String> HEADINGS =
      List.of(
          "No",
          "Given name",
          "Family name",
          "Unit",
          "Kind",
          "Job",
          "Place",
          "First day",
          "Private mail",
          "Mobile",
          "Display name",
          "Time zone",
          "Last day");
  private static final List<String> ATTRIBUTES =
      List.of(
          "employeeNumber",
          "name.givenName",
          "name.familyName",
          "department",
          "userType",
          "title",
          "location",
          "startDate",
          "emails.home",
          "phoneNumbers.mobile",
          "displayName",
          "timezone",
          "endDate");
  private static final int DAYS = 3;
  private static final int BATCH = 1_000;
  private static final int VALUES = 20;

  /** Two looks, a good second apart, before a file is known to be whole; and the rest of it. */
  private static final double LOOKING = 3;

  private final Path folder;
  private final Path jar;
  private final Trial trial;
  private final Set<String> logins = new HashSet<>();

  /** Who was made known last. */
  private long person = 10_000_000;

  BringFiles(Path root, Path folder, Trial trial) {
    this.folder = folder;
    this.jar = root.resolve("service/target/ebb-service-0.1.0-boot.jar");
    this.trial = trial;
  }

  /**
   * Rows nobody knows: parsed, checked, matched and kept, with no application to change; and what
   * computing the changes adds, where two applications get twenty values of each.
   */
  List<Measured> first() throws Exception {
    try (var without = stage("without");
        var stage = stage("changes");
        var database = database("bare-first")) {
      var client = new Client(stage.url(), stage.token());
      var plain = new Client(without.url(), without.token());
      SetUp.run(client, stage);
      putRules(client);
      var took =
          trial.medians(
              "import-first",
              (number, rows) -> {
                var name = "first" + number;
                var file = file(name, rows, number);
                putSource(client, name);
                putSource(plain, name);
                var alone = bring(plain, file, name);
                var changes = bring(client, file, name) - alone;
                var inserted = parseAndInsert(database, file, "bare_" + number);
                var changesInserted = insertChanges(database, rows * 2, "changes_" + number);
                Files.delete(file);
                return new double[] {alone, inserted, changes, changesInserted};
              });
      return List.of(
          new Measured("import-first", took[0], took[1], 4, "s", trial.n()),
          new Measured("changes-first", took[2], took[3], 4, "s", trial.n()));
    }
  }

  /**
   * Rows that are known word for word, in another order; then some of them changed; and a day on
   * which nothing has.
   */
  List<Measured> same() throws Exception {
    var home = folder.resolve("same");
    String token;
    try (var stage = stage("same")) {
      token = stage.token();
      putSource(new Client(stage.url(), token), "same");
      putSource(new Client(stage.url(), token), "tiny");
    }
    var known = file("known", trial.n(), 99);
    know(home, known, "same", trial.n());
    know(home, known, "tiny", trial.less());
    var pairsBare = database("bare-same");
    hashes(pairsBare, known);
    try (pairsBare;
        var stage = stage("same")) {
      var client = new Client(stage.url(), token);
      var took =
          trial.medians(
              "import-same",
              (number, rows) -> {
                var again = shuffled(known, "again" + number, rows, number, 0);
                var some = shuffled(known, "some" + number, rows, number + 100, 200);
                // All that is known of a source is read, however short a file of it is.
                var source = rows == trial.n() ? "same" : "tiny";
                var times =
                    new double[] {
                      bring(client, again, source),
                      bring(client, some, source),
                      parseHashAndRead(pairsBare, again, rows)
                    };
                Files.delete(again);
                Files.delete(some);
                return times;
              });
      return List.of(
          new Measured("import-same", took[0], took[2], 1.6, "s", trial.n()),
          new Measured("import-changed", took[1], took[0], 1.2, "s", trial.n()),
          feedDay(client, known));
    }
  }

  /**
   * An unchanged day through a watched folder, from the rename into it until its history is
   * written; against the same rows brought in by hand, and three seconds for the looking.
   */
  private Measured feedDay(Client client, Path known) throws Exception {
    var watched = Files.createDirectories(folder.resolve("watched"));
    client.done("feeds", "put", "same", "--kind=folder", "--set=path=" + watched, "--complete");
    client.done("feeds", "on", "same");
    var took =
        new Trial(trial.n(), 1, DAYS, 0)
            .medians(
                "feed-day",
                (number, rows) -> {
                  var again = shuffled(known, "day" + number, rows, number + 10, 0);
                  var byHand = bring(client, again, "same") + LOOKING;
                  return new double[] {deliver(client, again, watched, number + 1), byHand};
                });
    return new Measured("feed-day", took[0], took[1], 1.2, "s", trial.n());
  }

  private static double deliver(Client client, Path file, Path watched, int runs) throws Exception {
    var begin = System.nanoTime();
    Files.move(file, watched.resolve(file.getFileName()));
    while (true) {
      var all = client.json("feeds", "runs", "same").path("items");
      if (all.size() >= runs && !all.get(0).path("endedAt").isNull()) {
        if (!all.get(0).path("outcome").asString().equals("nothing-new")) {
          throw new IllegalStateException("It is no unchanged day: " + all.get(0));
        }
        return (System.nanoTime() - begin) / 1e9;
      }
      Thread.sleep(50);
    }
  }

  private Stage stage(String name) throws Exception {
    return new Stage(folder.resolve(name), new ServiceProcess(jar, ServiceProcess.AS_SERVED), 0);
  }

  private static double bring(Client client, Path file, String source) {
    var begin = System.nanoTime();
    var made = client.json("imports", "add", file.toString(), "--source=" + source);
    if (!made.path("stage").asString().equals("shown")) {
      throw new IllegalStateException("It is not shown: " + made);
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private void putSource(Client client, String name) throws IOException {
    var columns = new StringBuilder();
    for (int i = 0; i < HEADINGS.size(); i++) {
      columns.append(
          "%s\"%s\": \"%s\"".formatted(i == 0 ? "" : ", ", HEADINGS.get(i), ATTRIBUTES.get(i)));
    }
    var file =
        Files.writeString(
            folder.resolve("source.json"),
            "{\"rank\": 100, \"key\": \"No\", \"columns\": {%s}}".formatted(columns));
    client.done("sources", "put", name, file.toString());
  }

  private void putRules(Client client) throws IOException {
    for (var application : List.of("directory", "mail-house")) {
      var values = new StringBuilder("\"userName\": \"login\"");
      for (int i = 1; i < VALUES; i++) {
        values.append(", \"value%d\": \"person.name.familyName + ' %d'\"".formatted(i, i));
      }
      var file =
          Files.writeString(
              folder.resolve("rule.json"),
              "{\"application\": \"%s\", \"condition\": \"true\", \"leadDays\": 14, \"values\": {%s}}"
                  .formatted(application, values));
      client.done(
          "rules",
          "put",
          application.equals("directory") ? "directory-for-all" : "mail-for-employees",
          file.toString(),
          "--release");
    }
  }

  // Data ------------------------------------------------------------------------------------------

  private Path file(String name, int rows, long seed) throws IOException {
    var random = new Random(seed);
    var file = folder.resolve(name + ".csv");
    try (var out = Files.newBufferedWriter(file)) {
      out.write(String.join(",", HEADINGS));
      out.newLine();
      for (int i = 0; i < rows; i++) {
        row(out, random, seed, i);
      }
    }
    return file;
  }

  private static void row(BufferedWriter out, Random random, long seed, int i) throws IOException {
    var given = word(random);
    var family = word(random);
    out.write(
        "%d-%07d,%s,%s,Unit %03d,employee,Mate,Skerrow,2026-03-%02d,%s.%d@post.example,+99 555 %06d,%s %s,Europe/Oslo,\n"
            .formatted(
                seed,
                i,
                given,
                family,
                random.nextInt(200),
                1 + random.nextInt(28),
                given,
                i,
                random.nextInt(1_000_000),
                given,
                family));
  }

  private static String word(Random random) {
    var letters = new StringBuilder();
    for (int i = 0; i < 8; i++) {
      letters.append((char) ('a' + random.nextInt(26)));
    }
    return letters.toString();
  }

  /** So many of the same rows in another order; every so many-th with another job. */
  private Path shuffled(Path known, String name, int rows, long seed, int every)
      throws IOException {
    var lines = Files.readAllLines(known);
    var body = new ArrayList<>(lines.subList(1, rows + 1));
    Collections.shuffle(body, new Random(seed));
    var file = folder.resolve(name + ".csv");
    try (var out = Files.newBufferedWriter(file)) {
      out.write(lines.getFirst());
      out.newLine();
      for (int i = 0; i < body.size(); i++) {
        out.write(
            every > 0 && i % every == 0 ? body.get(i).replace(",Mate,", ",Bosun,") : body.get(i));
        out.newLine();
      }
    }
    return file;
  }

  /**
   * Puts into the service's database what it would have after the first rows of a file were
   * released.
   */
  private void know(Path home, Path file, String name, int rows) throws Exception {
    var columns = new TreeMap<String, String>();
    for (int i = 0; i < HEADINGS.size(); i++) {
      columns.put(HEADINGS.get(i), ATTRIBUTES.get(i));
    }
    var mapping = new Mapping("No", columns, new TreeSet<>(), null);
    var source = new Source(name, 100, Source.Kind.FILE, mapping, 1);
    var seed = Terms.usual(false).seed(source.version(), Map.of());
    var layout = mapping.layout("known", HEADINGS, Catalogue.STANDARD, new Expressions());
    var press = new Print.Press();
    try (var connection =
            DriverManager.getConnection(
                "jdbc:h2:file:" + home.resolve("ebb") + ";CACHE_SIZE=1000000", "ebb", "");
        var reader = CsvReader.builder().ofCsvRecord(file);
        var keys =
            connection.prepareStatement(
                "insert into source_key (source, row_key, person_id, row_hash) values (?, ?, ?, ?)");
        var names =
            connection.prepareStatement(
                "insert into login_name (namespace, name, person_id, is_current, since) values ('login', ?, ?, true, current_timestamp)");
        var asserted =
            connection.prepareStatement(
                "insert into assertion (id, person_id, source, asserted, cause, since) values (?, ?, ?, ?, 0, current_timestamp)")) {
      connection.setAutoCommit(false);
      var last = person + rows;
      for (var csv : reader) {
        if (csv.getStartingLineNumber() == 1) {
          continue;
        }
        if (person == last) {
          break;
        }
        var row = new Row(csv.getStartingLineNumber(), csv.getFields());
        person++;
        keys.setString(1, name);
        keys.setString(2, layout.key(row));
        keys.setLong(3, person);
        keys.setString(4, layout.print(row, press, seed).text());
        keys.addBatch();
        asserted.setLong(1, person);
        asserted.setLong(2, person);
        asserted.setString(3, name);
        asserted.setString(4, asserted(layout, row));
        asserted.addBatch();
        names.setString(
            1,
            LoginScheme.USUAL.allocate(
                person(person, layout, row), (_, _) -> Optional.empty(), logins::add));
        names.setLong(2, person);
        names.addBatch();
        if (person % BATCH == 0) {
          keys.executeBatch();
          asserted.executeBatch();
          names.executeBatch();
          connection.commit();
        }
      }
      keys.executeBatch();
      asserted.executeBatch();
      names.executeBatch();
      connection.commit();
    }
  }

  private static Person person(long number, Layout layout, Row row) {
    var id = new PersonId(number);
    var said = Assertions.none(id, "same").with(layout.check(row).values(), null, Instant.EPOCH, 0);
    return Person.resolve(id, List.of(said), _ -> 0);
  }

  private static String asserted(Layout layout, Row row) {
    var text = new StringBuilder("{");
    layout
        .check(row)
        .values()
        .forEach(
            (attribute, value) ->
                text.append(text.length() == 1 ? "" : ",")
                    .append(
                        "\"%s\":{\"value\":\"%s\",\"since\":\"2026-01-01T00:00:00Z\",\"cause\":0}"
                            .formatted(attribute, value)));
    return text.append('}').toString();
  }

  // Baselines -------------------------------------------------------------------------------------

  private Connection database(String name) throws SQLException {
    return DriverManager.getConnection("jdbc:h2:file:" + folder.resolve(name), "ebb", "");
  }

  private static double parseAndInsert(Connection connection, Path file, String table)
      throws IOException, SQLException {
    var columns = new StringBuilder();
    for (int i = 0; i < HEADINGS.size(); i++) {
      columns.append(", c%d varchar".formatted(i));
    }
    try (var statement = connection.createStatement()) {
      statement.execute("create table %s (id bigint primary key%s)".formatted(table, columns));
      for (int i = 0; i < 4; i++) {
        statement.execute("create index %1$s_%2$d on %1$s (c%2$d)".formatted(table, i));
      }
    }
    connection.setAutoCommit(false);
    var begin = System.nanoTime();
    try (var reader = CsvReader.builder().ofCsvRecord(file);
        var insert =
            connection.prepareStatement(
                "insert into %s values (?%s)".formatted(table, ", ?".repeat(HEADINGS.size())))) {
      long id = 0;
      for (CsvRecord csv : reader) {
        insert.setLong(1, ++id);
        for (int i = 0; i < HEADINGS.size(); i++) {
          insert.setString(i + 2, csv.getField(i));
        }
        insert.addBatch();
        if (id % BATCH == 0) {
          insert.executeBatch();
          connection.commit();
        }
      }
      insert.executeBatch();
      connection.commit();
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static double insertChanges(Connection connection, int rows, String table)
      throws SQLException {
    try (var statement = connection.createStatement()) {
      statement.execute(
          "create table %s (id bigint primary key, change_set_id bigint, person_id bigint, application varchar, kind varchar, state varchar, edits varchar)"
              .formatted(table));
      statement.execute("create index %1$s_a on %1$s (change_set_id, state)".formatted(table));
      statement.execute("create index %1$s_b on %1$s (person_id)".formatted(table));
    }
    var edits = new StringBuilder();
    for (int i = 0; i < VALUES; i++) {
      edits.append(
          "\"value%d\":{\"after\":\"family name %d\",\"ground\":\"rule\"},".formatted(i, i));
    }
    connection.setAutoCommit(false);
    var begin = System.nanoTime();
    try (var insert =
        connection.prepareStatement(
            "insert into %s values (?, 1, ?, 'mail-house', 'CREATE', 'PROPOSED', ?)"
                .formatted(table))) {
      for (int i = 1; i <= rows; i++) {
        insert.setLong(1, i);
        insert.setLong(2, i / 2);
        insert.setString(3, "{" + edits + i + "}");
        insert.addBatch();
        if (i % BATCH == 0) {
          insert.executeBatch();
          connection.commit();
        }
      }
      insert.executeBatch();
      connection.commit();
    }
    return (System.nanoTime() - begin) / 1e9;
  }

  private static void hashes(Connection connection, Path file) throws IOException, SQLException {
    try (var statement = connection.createStatement()) {
      statement.execute("create table hashes (k varchar(200) primary key, h varchar(32))");
    }
    connection.setAutoCommit(false);
    try (var reader = CsvReader.builder().ofCsvRecord(file);
        var insert = connection.prepareStatement("insert into hashes values (?, ?)")) {
      int rows = 0;
      for (CsvRecord csv : reader) {
        insert.setString(1, csv.getField(0));
        insert.setString(2, Print.of(String.join(",", csv.getFields())).text());
        insert.addBatch();
        if (++rows % BATCH == 0) {
          insert.executeBatch();
          connection.commit();
        }
      }
      insert.executeBatch();
      connection.commit();
    }
  }

  private static double parseHashAndRead(Connection connection, Path file, int known)
      throws IOException, SQLException {
    var begin = System.nanoTime();
    long sum = 0;
    try (var reader = CsvReader.builder().ofCsvRecord(file)) {
      var stream = Hashing.murmur3_128().hashStream();
      for (CsvRecord csv : reader) {
        stream.reset();
        for (int i = 0; i < csv.getFieldCount(); i++) {
          stream.putString(csv.getField(i));
        }
        sum += stream.get().getLeastSignificantBits();
      }
    }
    try (var query = connection.prepareStatement("select k, h from hashes limit ?")) {
      query.setInt(1, known);
      query.setFetchSize(10_000);
      try (var rows = query.executeQuery()) {
        while (rows.next()) {
          sum += rows.getString(1).length() + rows.getString(2).length();
        }
      }
    }
    if (sum == 0) {
      throw new IllegalStateException("Nothing was read");
    }
    return (System.nanoTime() - begin) / 1e9;
  }
}
