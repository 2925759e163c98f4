package ebb.store.applications;

import ebb.core.application.GroupMark;
import ebb.core.application.GroupMark.Risk;
import ebb.core.application.Nesting;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** What was said of groups: they are few beside the groups there are. */
public final class GroupMarks {
  /** More are not looked at. */
  private static final int MOST = 10_000;

  /**
   * @param by who said it
   */
  public record Kept(GroupMark mark, String by, Instant at) {}

  /** All of them, by name. */
  public List<Kept> list(StatelessSession session) {
    return session
        .createSelectionQuery("from GroupMarkEntity order by name", GroupMarkEntity.class)
        .setMaxResults(MOST)
        .stream()
        .map(GroupMarks::kept)
        .toList();
  }

  /** Those of these groups of which something was said. */
  public Map<String, GroupMark> of(StatelessSession session, Collection<String> groups) {
    return groups.isEmpty()
        ? Map.of()
        : session
            .createSelectionQuery(
                "from GroupMarkEntity where name in (:names)", GroupMarkEntity.class)
            .setParameterList("names", groups)
            .stream()
            .map(row -> kept(row).mark())
            .collect(Collectors.toMap(GroupMark::name, mark -> mark));
  }

  /** In place of what was said before; what says nothing is kept no more. */
  public void put(StatelessSession session, GroupMark mark, String by, Instant at) {
    if (mark.isEmpty()) {
      session
          .createMutationQuery("delete from GroupMarkEntity where name = :name")
          .setParameter("name", mark.name())
          .executeUpdate();
      return;
    }
    var row = new GroupMarkEntity();
    row.name = mark.name();
    row.risk = mark.risk() == null ? null : mark.risk().name();
    row.scope = mark.scope();
    row.most = mark.most();
    row.setBy = by;
    row.setAt = at;
    session.upsert(row);
  }

  /** A group in an application in which, or within which, more accounts in use are than may be. */
  public record Crowded(String group, String application, long accounts, int most) {}

  /** By application and group. */
  public List<Crowded> crowded(StatelessSession session, int limit) {
    var nestings = Groups.nestings(session);
    return session
        .createSelectionQuery(
            "from GroupMarkEntity where most is not null order by name", GroupMarkEntity.class)
        .setMaxResults(MOST)
        .stream()
        .flatMap(mark -> crowded(session, mark, nestings).stream())
        .sorted(Comparator.comparing(Crowded::application).thenComparing(Crowded::group))
        .limit(limit)
        .toList();
  }

  private static List<Crowded> crowded(
      StatelessSession session, GroupMarkEntity mark, Map<String, Nesting> nestings) {
    var in = InGroup.of(nestings, mark.name);
    return in
        .fill(
            session
                .createSelectionQuery(
                    "select g.application, count(distinct a.id)"
                        + " from AccountGroupEntity g, AccountEntity a"
                        + " where a.id = g.id.account and a.level = 'ACTIVE' and "
                        + in.condition()
                        + " group by g.application having count(distinct a.id) > :most",
                    Object[].class)
                .setParameter("most", mark.most.longValue()))
        .stream()
        .map(row -> new Crowded(mark.name, (String) row[0], (Long) row[1], mark.most))
        .toList();
  }

  private static Kept kept(GroupMarkEntity row) {
    return new Kept(
        new GroupMark(
            row.name,
            Optional.ofNullable(row.risk).map(Risk::valueOf).orElse(null),
            row.scope,
            row.most),
        row.setBy,
        row.setAt);
  }
}
