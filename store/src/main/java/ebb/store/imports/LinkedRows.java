package ebb.store.imports;

import ebb.core.imports.LinkedFile;
import ebb.core.imports.LinkedRow;
import ebb.core.imports.Verdict;
import ebb.core.problem.Problem;
import ebb.store.Json;
import ebb.store.Page;
import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import tools.jackson.core.type.TypeReference;

/**
 * Rows of linked files. What was released last and not taken back is what is known of a source's
 * units and groups: there is no other record of them.
 */
public final class LinkedRows {
  private static final Set<String> RELEASED = Set.of("RELEASING", "RELEASED");

  public void put(StatelessSession session, long made, Collection<LinkedRow> rows) {
    session.insertMultiple(rows.stream().map(row -> entity(made, row)).toList());
  }

  public void putAgain(StatelessSession session, long made, LinkedRow row) {
    session.upsert(entity(made, row));
  }

  /** How many rows of each file have each verdict; unchanged memberships are not kept. */
  public Map<LinkedFile, Map<Verdict, Long>> counts(StatelessSession session, long made) {
    var counts = new EnumMap<LinkedFile, Map<Verdict, Long>>(LinkedFile.class);
    session
        .createSelectionQuery(
            "select id.file, verdict, count(*) from LinkedRowEntity"
                + " where id.importId = :import group by id.file, verdict",
            Object[].class)
        .setParameter("import", made)
        .stream()
        .forEach(
            row ->
                counts
                    .computeIfAbsent(
                        LinkedFile.valueOf((String) row[0]), _ -> new EnumMap<>(Verdict.class))
                    .put(Verdict.valueOf((String) row[1]), (Long) row[2]));
    return counts;
  }

  /**
   * Rows of one file, in the order of their lines.
   *
   * @param verdict null for all
   */
  public Page<LinkedRow> page(
      StatelessSession session,
      long made,
      LinkedFile file,
      Verdict verdict,
      Long after,
      int limit) {
    var rows =
        session
            .createSelectionQuery(
                "from LinkedRowEntity where id.importId = :import and id.file = :file"
                    + (verdict == null ? "" : " and verdict = :verdict")
                    + " and id.line > :after order by id.line",
                LinkedRowEntity.class)
            .setParameter("import", made)
            .setParameter("file", file.name())
            .setParameter("after", after == null ? 0 : after);
    if (verdict != null) {
      rows.setParameter("verdict", verdict.name());
    }
    var found = rows.setMaxResults(limit + 1).list();
    var shown = found.subList(0, Math.min(limit, found.size()));
    return new Page<>(
        shown.stream().map(LinkedRows::row).toList(),
        found.size() > limit ? Long.toString(shown.getLast().id.line()) : null);
  }

  /** What an import's linked files say under a key, refused rows left out. */
  public List<LinkedRow> under(StatelessSession session, long made, String key) {
    return session
        .createSelectionQuery(
            "from LinkedRowEntity where id.importId = :import and rowKey = :key"
                + " and verdict <> 'REFUSED' order by id.file, id.line",
            LinkedRowEntity.class)
        .setParameter("import", made)
        .setParameter("key", key)
        .stream()
        .map(LinkedRows::row)
        .toList();
  }

  /** What an import says of each unit or group, by its key; refused rows left out. */
  public Map<String, SortedMap<String, String>> said(
      StatelessSession session, long made, LinkedFile file) {
    return session
        .createSelectionQuery(
            "from LinkedRowEntity where id.importId = :import and id.file = :file"
                + " and verdict <> 'REFUSED'",
            LinkedRowEntity.class)
        .setParameter("import", made)
        .setParameter("file", file.name())
        .stream()
        .map(LinkedRows::row)
        .collect(
            Collectors.toMap(LinkedRow::key, LinkedRow::says, (_, last) -> last, TreeMap::new));
  }

  /** What is known of a source's units or groups: said by its last released import with such. */
  public Map<String, SortedMap<String, String>> known(
      StatelessSession session, String source, LinkedFile file) {
    var last =
        session
            .createSelectionQuery(
                "select max(i.id) from ImportEntity i, ChangeSetEntity s"
                    + " where i.source = :source and s.id = i.changeSetId"
                    + " and s.state in (:released) and s.takenBackBy is null"
                    + " and exists (select 1 from LinkedRowEntity l"
                    + " where l.id.importId = i.id and l.id.file = :file)",
                Long.class)
            .setParameter("source", source)
            .setParameter("file", file.name())
            .setParameterList("released", RELEASED)
            .getSingleResultOrNull();
    return last == null ? Map.of() : said(session, last, file);
  }

  private static LinkedRowEntity entity(long made, LinkedRow row) {
    var entity = new LinkedRowEntity();
    entity.id = new LinkedRowEntity.Key(made, row.file().name(), row.line());
    entity.verdict = row.verdict().name();
    entity.rowKey = row.key();
    entity.says = Json.write(row.says());
    entity.problems = Json.write(row.problems());
    return entity;
  }

  private static LinkedRow row(LinkedRowEntity entity) {
    return new LinkedRow(
        LinkedFile.valueOf(entity.id.file()),
        entity.id.line(),
        Verdict.valueOf(entity.verdict),
        entity.rowKey,
        Json.texts(entity.says),
        Json.read(entity.problems, new TypeReference<List<Problem>>() {}));
  }
}
