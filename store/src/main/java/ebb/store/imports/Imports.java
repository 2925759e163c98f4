package ebb.store.imports;

import ebb.core.imports.Import;
import ebb.core.imports.Missing;
import ebb.core.imports.RowReport;
import ebb.core.imports.Stage;
import ebb.core.imports.Verdict;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/** Imports, what was said of their rows, and whom they do not name any more. */
public final class Imports {
  public static final List<Class<?>> ENTITIES =
      List.of(ImportEntity.class, ImportRowEntity.class, MissingEntity.class);

  public long number(StatelessSession session) {
    return Numbers.next(session, "import_seq");
  }

  public void put(StatelessSession session, Import made) {
    var row = new ImportEntity();
    row.id = made.id();
    row.source = made.source();
    row.file = made.file();
    row.sha256 = made.sha256();
    row.complete = made.complete();
    row.stage = made.stage().name();
    row.counts = Json.write(made.counts());
    row.changeSetId = made.changeSet();
    row.createdBy = made.createdBy();
    row.createdAt = made.createdAt();
    session.upsert(row);
  }

  public Optional<Import> get(StatelessSession session, long id) {
    return Optional.ofNullable(session.get(ImportEntity.class, id)).map(Imports::made);
  }

  public Optional<Import> ofChangeSet(StatelessSession session, long changeSet) {
    return session
        .createSelectionQuery("from ImportEntity where changeSetId = :set", ImportEntity.class)
        .setParameter("set", changeSet)
        .uniqueResultOptional()
        .map(Imports::made);
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

  public void putRows(StatelessSession session, long made, Collection<RowReport> reports) {
    session.insertMultiple(reports.stream().map(report -> row(made, report)).toList());
  }

  /**
   * Rows in the order of their lines.
   *
   * @param verdict null for all
   */
  public Page<RowReport> rows(
      StatelessSession session, long made, Verdict verdict, Long afterLine, int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from ImportRowEntity where id.importId = :import and id.line > :line"
                    + (verdict == null ? "" : " and verdict = :verdict")
                    + " order by id.line",
                ImportRowEntity.class)
            .setParameter("import", made)
            .setParameter("line", afterLine == null ? 0L : afterLine)
            .setMaxResults(limit + 1);
    if (verdict != null) {
      rows.setParameter("verdict", verdict.name());
    }
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

  public Optional<Missing> missing(StatelessSession session, long made, String key) {
    return Optional.ofNullable(session.get(MissingEntity.class, new MissingEntity.Key(made, key)))
        .map(Imports::missing);
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
        row.sha256,
        row.complete,
        Stage.valueOf(row.stage),
        Json.read(row.counts, new TypeReference<Map<String, Long>>() {}),
        row.changeSetId,
        row.createdBy,
        row.createdAt);
  }

  private static ImportRowEntity row(long made, RowReport report) {
    var row = new ImportRowEntity();
    row.id = new ImportRowEntity.Key(made, report.line());
    row.verdict = report.verdict().name();
    row.rowKey = report.key();
    row.personId = report.person() == null ? null : report.person().value();
    row.values = Json.write(report.values());
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
        Json.texts(row.values),
        Json.read(row.problems, new TypeReference<List<Problem>>() {}),
        Json.read(row.resembles, new TypeReference<Map<Long, List<String>>>() {}),
        row.answer);
  }
}
