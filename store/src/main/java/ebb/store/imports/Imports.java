package ebb.store.imports;

import ebb.core.imports.Format;
import ebb.core.imports.Import;
import ebb.core.imports.Likeness.Resemblance;
import ebb.core.imports.Missing;
import ebb.core.imports.RowReport;
import ebb.core.imports.RowReport.Edit;
import ebb.core.imports.Stage;
import ebb.core.imports.Terms;
import ebb.core.imports.Verdict;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Batch;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;
import tools.jackson.core.type.TypeReference;

/** Imports, what was said of their rows, and whom they do not name any more. */
public final class Imports {
  public static final List<Class<?>> ENTITIES =
      List.of(
          ImportEntity.class,
          ImportRowEntity.class,
          ImportProblemEntity.class,
          MissingEntity.class,
          LinkedRowEntity.class);

  private static final int LONGEST_SAID = 200;

  private static final String INSERT_ROW =
      "insert into import_row (import_id, line, verdict, row_key, person_id, row_values, texts,"
          + " edits, problems, resembles, answer) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)";

  public long number(StatelessSession session) {
    return Numbers.next(session, "import_seq");
  }

  public void put(StatelessSession session, Import made) {
    var row =
        Optional.ofNullable(session.get(ImportEntity.class, made.id()))
            .orElseGet(ImportEntity::new);
    row.id = made.id();
    row.source = made.source();
    row.file = made.file();
    row.print = made.print();
    row.format = Json.write(made.format());
    row.terms = Json.write(made.terms());
    row.questions = Json.write(made.questions());
    row.stage = made.stage().name();
    row.counts = Json.write(made.counts());
    row.size = made.size();
    row.writtenAt = made.writtenAt();
    row.tookMillis = made.tookMillis();
    row.changeSetId = made.changeSet();
    row.createdBy = made.createdBy();
    row.createdAt = made.createdAt();
    session.upsert(row);
  }

  public Optional<Import> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(ImportEntity.class, id)).map(Imports::made);
  }

  /**
   * The import a change set comes from, kept from other transactions until this one ends: what is
   * released here and carried out there must not miss each other.
   */
  public Optional<Import> lockOfChangeSet(StatelessSession session, long changeSet) {
    session
        .createNativeQuery(
            "select id from import where change_set_id = :set for update", Long.class)
        .setParameter("set", changeSet)
        .getResultList();
    return ofChangeSet(session, changeSet);
  }

  public Optional<Import> ofChangeSet(StatelessSession session, long changeSet) {
    return session
        .createSelectionQuery("from ImportEntity where changeSetId = :set", ImportEntity.class)
        .setParameter("set", changeSet)
        .uniqueResultOptional()
        .map(Imports::made);
  }

  /** The source whose file a set comes from, or what was decided about it; empty if none. */
  public Optional<String> sourceOfSet(StatelessSession session, long changeSet) {
    return session
        .createSelectionQuery(
            "select source from ImportEntity where changeSetId = :set or answersSetId = :set",
            String.class)
        .setParameter("set", changeSet)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** Newest first. */
  public Page<Import> list(StatelessSession session, Long before, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from ImportEntity where id < :before order by id desc", ImportEntity.class)
            .setParameter("before", before == null ? Long.MAX_VALUE : before)
            .setMaxResults(limit + 1)
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Imports::made).toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** The set of what was decided after an import was released; empty if nothing was. */
  public Optional<Long> answersSet(StatelessSession session, long made) {
    return Optional.ofNullable(session.get(ImportEntity.class, made)).map(row -> row.answersSetId);
  }

  public void putAnswersSet(StatelessSession session, long made, long set) {
    session
        .createMutationQuery("update ImportEntity set answersSetId = :set where id = :id")
        .setParameter("set", set)
        .setParameter("id", made)
        .executeUpdate();
  }

  /** Imports of a source that were let through, and not taken back; newest first. */
  public List<Import> released(StatelessSession session, String source, int limit) {
    return session
        .createSelectionQuery(
            "select i from ImportEntity i, ChangeSetEntity s where i.source = :source"
                + " and s.id = i.changeSetId and s.releasedAt is not null and s.takenBackBy is null order by i.id desc",
            ImportEntity.class)
        .setParameter("source", source)
        .setMaxResults(limit)
        .stream()
        .map(Imports::made)
        .toList();
  }

  public void putRows(StatelessSession session, long made, Collection<RowReport> reports) {
    Batch.execute(
        session, INSERT_ROW, reports, (insert, report) -> bind(insert, row(made, report)));
    putProblems(session, made, reports);
  }

  private static void bind(PreparedStatement insert, ImportRowEntity row) throws SQLException {
    insert.setLong(1, row.id.importId());
    insert.setLong(2, row.id.line());
    insert.setString(3, row.verdict);
    insert.setString(4, row.rowKey);
    insert.setObject(5, row.personId, Types.BIGINT);
    insert.setString(6, row.values);
    insert.setString(7, row.texts);
    insert.setString(8, row.edits);
    insert.setString(9, row.problems);
    insert.setString(10, row.resembles);
    insert.setString(11, row.answer);
  }

  private static void putProblems(
      StatelessSession session, long made, Collection<RowReport> reports) {
    var rows = new ArrayList<ImportProblemEntity>();
    for (var report : reports) {
      int number = 0;
      for (var problem : report.problems()) {
        rows.add(problem(made, report, ++number, problem));
      }
    }
    if (!rows.isEmpty()) {
      session.insertMultiple(rows);
    }
  }

  private static ImportProblemEntity problem(
      long made, RowReport report, int number, Problem problem) {
    var row = new ImportProblemEntity();
    row.id = new ImportProblemEntity.Key(made, report.line(), number);
    row.code = problem.code();
    row.heading = problem.where().column() == null ? "" : problem.where().column();
    var said = report.texts().getOrDefault(row.heading, "");
    row.said = said.substring(0, Math.min(said.length(), LONGEST_SAID));
    row.problem = Json.write(problem);
    return row;
  }

  /** A kind of problem: what is wrong in which column, in how many rows; and one of them. */
  public record ProblemKind(String code, String heading, long rows, Problem example) {}

  /** The kinds of problems, most frequent first. */
  public List<ProblemKind> problemKinds(StatelessSession session, long made, int limit) {
    return session
        .createSelectionQuery(
            "select code, heading, count(distinct id.line), min(id.line) from ImportProblemEntity"
                + " where id.importId = :import group by code, heading"
                + " order by count(distinct id.line) desc, code, heading",
            Object[].class)
        .setParameter("import", made)
        .setMaxResults(limit)
        .stream()
        .map(
            row ->
                new ProblemKind(
                    (String) row[0], (String) row[1], (Long) row[2], example(session, made, row)))
        .toList();
  }

  private static Problem example(StatelessSession session, long made, Object[] kind) {
    return session
        .createSelectionQuery(
            "select problem from ImportProblemEntity where id.importId = :import"
                + " and id.line = :line and code = :code and heading = :heading",
            String.class)
        .setParameter("import", made)
        .setParameter("line", kind[3])
        .setParameter("code", kind[0])
        .setParameter("heading", kind[1])
        .setMaxResults(1)
        .stream()
        .map(json -> Json.read(json, Problem.class))
        .findFirst()
        .orElseThrow();
  }

  /** Lines whose problem of a kind comes of the same text. */
  public List<Long> alike(
      StatelessSession session, long made, String code, String heading, String said, int limit) {
    return session
        .createSelectionQuery(
            "select distinct id.line from ImportProblemEntity where id.importId = :import"
                + " and code = :code and heading = :heading and said = :said order by id.line",
            Long.class)
        .setParameter("import", made)
        .setParameter("code", code)
        .setParameter("heading", heading)
        .setParameter("said", said)
        .setMaxResults(limit)
        .list();
  }

  /** Takes out everything that was said of the rows, before they are read anew. */
  public void clearRows(StatelessSession session, long made) {
    for (var entity :
        List.of("ImportRowEntity", "ImportProblemEntity", "MissingEntity", "LinkedRowEntity")) {
      session
          .createMutationQuery("delete from " + entity + " where id.importId = :import")
          .setParameter("import", made)
          .executeUpdate();
    }
  }

  public void delete(StatelessSession session, long made) {
    clearRows(session, made);
    session
        .createMutationQuery("delete from ImportEntity where id = :id")
        .setParameter("id", made)
        .executeUpdate();
  }

  /** Milliseconds a byte took in the latest readings; empty before the first. */
  public OptionalDouble pace(StatelessSession session, int latest) {
    return session
        .createSelectionQuery(
            "from ImportEntity where tookMillis is not null and size > 0 order by id desc",
            ImportEntity.class)
        .setMaxResults(latest)
        .stream()
        .mapToDouble(row -> row.tookMillis / (double) row.size)
        .average();
  }

  /** Imports that a stop of the service broke off in the middle of being read. */
  public List<Import> broken(StatelessSession session) {
    return session
        .createSelectionQuery(
            "from ImportEntity where stage in ('READ', 'CHECKED') and questions = '[]' order by id",
            ImportEntity.class)
        .stream()
        .map(Imports::made)
        .toList();
  }

  /** How many rows have each verdict. */
  public Map<Verdict, Long> verdicts(StatelessSession session, long made) {
    var counts = new EnumMap<Verdict, Long>(Verdict.class);
    session
        .createSelectionQuery(
            "select verdict, count(*) from ImportRowEntity where id.importId = :import group by verdict",
            Object[].class)
        .setParameter("import", made)
        .stream()
        .forEach(row -> counts.put(Verdict.valueOf((String) row[0]), (Long) row[1]));
    return counts;
  }

  /**
   * Which rows are meant; null stands for any.
   *
   * @param code of a problem
   * @param heading of a problem
   * @param key the beginning of a row's key
   */
  public record Wanted(Verdict verdict, String code, String heading, String key) {
    public static final Wanted ALL = new Wanted(null, null, null, null);

    private String condition() {
      return (verdict == null ? "" : " and r.verdict = :verdict")
          + (code == null
              ? ""
              : " and exists (select 1 from ImportProblemEntity p where p.id.importId = :import"
                  + " and p.id.line = r.id.line and p.code = :code and p.heading = :heading)")
          + (key == null ? "" : " and r.rowKey >= :key and r.rowKey < :keyEnd");
    }

    private void fill(SelectionQuery<?> query) {
      if (verdict != null) {
        query.setParameter("verdict", verdict.name());
      }
      if (code != null) {
        query.setParameter("code", code);
        query.setParameter("heading", heading == null ? "" : heading);
      }
      if (key != null) {
        query.setParameter("key", key);
        query.setParameter("keyEnd", key + Character.MAX_VALUE);
      }
    }
  }

  /** Rows in the order of their lines. */
  public Page<RowReport> rows(
      StatelessSession session, long made, Wanted wanted, Long afterLine, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from ImportRowEntity r where r.id.importId = :import and r.id.line > :line"
                    + wanted.condition()
                    + " order by r.id.line",
                ImportRowEntity.class)
            .setParameter("import", made)
            .setParameter("line", afterLine == null ? 0L : afterLine)
            .setMaxResults(limit + 1);
    wanted.fill(rows);
    var found = rows.list();
    var shown = found.subList(0, Math.min(limit, found.size()));
    return new Page<>(
        shown.stream().map(Imports::report).toList(),
        found.size() > limit ? Long.toString(shown.getLast().id.line()) : null);
  }

  public Optional<RowReport> row(StatelessSession session, long made, long line) {
    return Optional.ofNullable(
            session.get(ImportRowEntity.class, new ImportRowEntity.Key(made, line)))
        .map(Imports::report);
  }

  public void putRow(StatelessSession session, long made, RowReport report) {
    session.upsert(row(made, report));
    session
        .createMutationQuery(
            "delete from ImportProblemEntity where id.importId = :import and id.line = :line")
        .setParameter("import", made)
        .setParameter("line", report.line())
        .executeUpdate();
    putProblems(session, made, List.of(report));
  }

  /** The first lines that name these keys; lines that say what is known already are not kept. */
  public Map<String, Long> linesOf(StatelessSession session, long made, Collection<String> keys) {
    return session
        .createSelectionQuery(
            "select rowKey, min(id.line) from ImportRowEntity where id.importId = :import"
                + " and rowKey in (:keys) and verdict <> 'REFUSED' group by rowKey",
            Object[].class)
        .setParameter("import", made)
        .setParameterList("keys", keys)
        .stream()
        .collect(Collectors.toMap(row -> (String) row[0], row -> (Long) row[1]));
  }

  /** Takes out a row of which nothing is to be said any more. */
  public void dropRow(StatelessSession session, long made, long line) {
    for (var entity : List.of("ImportRowEntity", "ImportProblemEntity")) {
      session
          .createMutationQuery(
              "delete from " + entity + " where id.importId = :import and id.line = :line")
          .setParameter("import", made)
          .setParameter("line", line)
          .executeUpdate();
    }
  }

  public void putMissing(StatelessSession session, long made, Collection<Missing> missing) {
    missing.forEach(
        one -> {
          var row = new MissingEntity();
          row.id = new MissingEntity.Key(made, one.key());
          row.personId = one.person().value();
          row.decision = one.decision().name();
          session.upsert(row);
        });
  }

  public Page<Missing> missing(StatelessSession session, long made, String afterKey, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from MissingEntity where id.importId = :import and id.rowKey > :key order by id.rowKey",
                MissingEntity.class)
            .setParameter("import", made)
            .setParameter("key", afterKey == null ? "" : afterKey)
            .setMaxResults(limit + 1)
            .list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(Imports::missing).toList(),
        rows.size() > limit ? shown.getLast().id.rowKey() : null);
  }

  /** The keys of a person whom a file does not name. */
  public List<Missing> missingOf(StatelessSession session, long made, PersonId person) {
    return session
        .createSelectionQuery(
            "from MissingEntity where id.importId = :made and personId = :person",
            MissingEntity.class)
        .setParameter("made", made)
        .setParameter("person", person.value())
        .stream()
        .map(Imports::missing)
        .toList();
  }

  /** Takes somebody off the list of those a file does not name. Nothing happens if not on it. */
  public void dropMissing(StatelessSession session, long made, PersonId person) {
    int dropped =
        session
            .createMutationQuery(
                "delete from MissingEntity where id.importId = :made and personId = :person")
            .setParameter("made", made)
            .setParameter("person", person.value())
            .executeUpdate();
    if (dropped > 0) {
      var row = session.get(ImportEntity.class, made);
      var counts = made(row).counts();
      counts.merge(Import.MISSING, (long) -dropped, Long::sum);
      row.counts = Json.write(counts);
      session.update(row);
    }
  }

  public Optional<Missing> missing(StatelessSession session, long made, String key) {
    return Optional.ofNullable(session.get(MissingEntity.class, new MissingEntity.Key(made, key)))
        .map(Imports::missing);
  }

  /** The import a change set comes from. */
  public Optional<Long> ofSet(StatelessSession session, long set) {
    return session
        .createSelectionQuery("select id from ImportEntity where changeSetId = :set", Long.class)
        .setParameter("set", set)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** Rows set aside that nobody has answered. */
  public long countUnanswered(StatelessSession session, long made) {
    return session
        .createSelectionQuery(
            "select count(*) from ImportRowEntity"
                + " where id.importId = :import and verdict = 'SET_ASIDE' and answer is null",
            Long.class)
        .setParameter("import", made)
        .getSingleResult();
  }

  /** Missing people nobody has decided about. */
  public long countUndecided(StatelessSession session, long made) {
    return session
        .createSelectionQuery(
            "select count(*) from MissingEntity"
                + " where id.importId = :import and decision = 'UNDECIDED'",
            Long.class)
        .setParameter("import", made)
        .getSingleResult();
  }

  private static Missing missing(MissingEntity row) {
    return new Missing(
        row.id.rowKey(), new PersonId(row.personId), Missing.Decision.valueOf(row.decision));
  }

  private static Import made(ImportEntity row) {
    return new Import(
        row.id,
        row.source,
        row.file,
        row.print,
        row.size,
        row.writtenAt,
        Json.read(row.format, Format.class),
        Json.read(row.terms, Terms.class),
        Stage.valueOf(row.stage),
        Json.read(row.questions, new TypeReference<List<Problem>>() {}),
        Json.read(row.counts, new TypeReference<Map<String, Long>>() {}),
        row.changeSetId,
        row.tookMillis,
        row.createdBy,
        row.createdAt);
  }

  private static ImportRowEntity row(long made, RowReport report) {
    var row = new ImportRowEntity();
    row.id = new ImportRowEntity.Key(made, report.line());
    row.verdict = report.verdict().name();
    row.rowKey = report.key();
    row.personId = report.person() == null ? null : report.person().value();
    row.texts = Json.write(report.texts());
    row.values = Json.write(report.values());
    row.edits = Json.write(report.edits());
    row.problems = Json.write(report.problems());
    row.resembles = Json.write(report.resembles());
    row.answer = report.answer();
    return row;
  }

  private static RowReport report(ImportRowEntity row) {
    return new RowReport(
        row.id.line(),
        Verdict.valueOf(row.verdict),
        row.rowKey,
        row.personId == null ? null : new PersonId(row.personId),
        Json.read(row.texts, new TypeReference<LinkedHashMap<String, String>>() {}),
        Json.texts(row.values),
        Json.read(row.edits, new TypeReference<TreeMap<String, Edit>>() {}),
        Json.read(row.problems, new TypeReference<List<Problem>>() {}),
        Json.read(row.resembles, new TypeReference<Map<Long, Resemblance>>() {}),
        row.answer);
  }
}
