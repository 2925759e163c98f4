package ebb.store.push;

import ebb.store.Numbers;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/** The resources that were pushed, and who of them is in which group. */
public final class Resources {
  public static final List<Class<?>> ENTITIES = List.of(ResourceEntity.class);

  /**
   * Has one write to a source follow the other until the transaction ends, so that numbers grow in
   * the order in which they can be seen.
   */
  public void inTurn(StatelessSession session, String source) {
    session
        .createNativeQuery(
            "select source from feed where source = :source for update", String.class)
        .setParameter("source", source)
        .getSingleResult();
  }

  /** The number up to which deliveries were made, whatever became of them; 0 if none was. */
  public long taken(StatelessSession session, String source) {
    return session
        .createNativeQuery("select taken from feed where source = :source", Long.class)
        .setParameter("source", source)
        .getSingleResult();
  }

  /** A delivery is made of what was written up to a number; waits for whoever is writing. */
  public void take(StatelessSession session, String source, long number) {
    session
        .createNativeMutationQuery(
            "update feed set taken = greatest(taken, :number) where source = :source")
        .setParameter("number", number)
        .setParameter("source", source)
        .executeUpdate();
  }

  /** One that is not deleted. */
  public Optional<Resource> get(
      StatelessSession session, String source, Resource.Kind kind, String id) {
    return Optional.ofNullable(session.get(ResourceEntity.class, id))
        .filter(row -> row.source.equals(source) && row.kind.equals(kind.name()) && !row.deleted)
        .map(Resources::resource);
  }

  /** The one that has a name, which is folded already. */
  public Optional<Resource> named(
      StatelessSession session, String source, Resource.Kind kind, String uniqueName) {
    return only(session, "uniqueName", source, kind, uniqueName);
  }

  public Optional<Resource> external(
      StatelessSession session, String source, Resource.Kind kind, String externalId) {
    return only(session, "externalId", source, kind, externalId);
  }

  private static Optional<Resource> only(
      StatelessSession session, String field, String source, Resource.Kind kind, String text) {
    return session
        .createSelectionQuery(
            "from ResourceEntity where source = :source and kind = :kind and %s = :text"
                .formatted(field),
            ResourceEntity.class)
        .setParameter("source", source)
        .setParameter("kind", kind.name())
        .setParameter("text", text)
        .uniqueResultOptional()
        .map(Resources::resource);
  }

  /**
   * Keeps a resource under the next version; it waits for a delivery then. One that is new takes
   * the place of those deleted that had its key: what groups they were in is over.
   */
  public Resource put(StatelessSession session, Resource resource) {
    var row = new ResourceEntity();
    row.id = resource.id();
    row.source = resource.source();
    row.kind = resource.kind().name();
    row.uniqueName = resource.uniqueName();
    row.externalId = resource.externalId();
    row.sourceKey = resource.key();
    row.formerKey = resource.formerKey();
    row.body = resource.body();
    row.deleted = resource.deleted();
    row.number = Numbers.next(session, "pushed_seq");
    row.createdAt = resource.createdAt();
    row.editedAt = resource.editedAt();
    row.version = resource.version() + 1;
    if (resource.version() == 0) {
      replaceDeleted(session, row);
      session.insert(row);
    } else {
      session.update(row);
    }
    return resource(row);
  }

  private static void replaceDeleted(StatelessSession session, ResourceEntity row) {
    var deleted =
        session
            .createSelectionQuery(
                "select id from ResourceEntity where source = :source and kind = :kind"
                    + " and sourceKey = :key and deleted",
                String.class)
            .setParameter("source", row.source)
            .setParameter("kind", row.kind)
            .setParameter("key", row.sourceKey)
            .list();
    if (deleted.isEmpty()) {
      return;
    }
    session
        .createNativeMutationQuery(
            "merge into pushed_member (group_id, member_id, source, gone, number)"
                + " key (group_id, member_id)"
                + " select distinct group_id, :id, source, true, :number from pushed_member"
                + " where member_id in (:deleted)")
        .setParameter("id", row.id)
        .setParameter("number", row.number)
        .setParameter("deleted", deleted)
        .executeUpdate();
    for (var sql :
        List.of(
            "delete from pushed_member where member_id in (:deleted)",
            "delete from pushed where id in (:deleted)")) {
      session.createNativeMutationQuery(sql).setParameter("deleted", deleted).executeUpdate();
    }
  }

  public long count(StatelessSession session, String source, Resource.Kind kind) {
    return session
        .createSelectionQuery(
            "select count(*) from ResourceEntity"
                + " where source = :source and kind = :kind and not deleted",
            Long.class)
        .setParameter("source", source)
        .setParameter("kind", kind.name())
        .getSingleResult();
  }

  /** Those that are not deleted, in the order of their ids. */
  public List<Resource> page(
      StatelessSession session, String source, Resource.Kind kind, int from, int most) {
    return all(session, source, kind).setFirstResult(from).setMaxResults(most).stream()
        .map(Resources::resource)
        .toList();
  }

  /** As {@link #page}, all of them, one after the other. */
  public void each(
      StatelessSession session, String source, Resource.Kind kind, Consumer<Resource> each) {
    stream(all(session, source, kind), each);
  }

  private static SelectionQuery<ResourceEntity> all(
      StatelessSession session, String source, Resource.Kind kind) {
    return session
        .createSelectionQuery(
            "from ResourceEntity where source = :source and kind = :kind and not deleted order by id",
            ResourceEntity.class)
        .setParameter("source", source)
        .setParameter("kind", kind.name());
  }

  private static void stream(SelectionQuery<ResourceEntity> query, Consumer<Resource> each) {
    try (var rows = query.getResultStream()) {
      rows.map(Resources::resource).forEach(each);
    }
  }

  /**
   * What waits for a delivery.
   *
   * @param last the number up to which it goes
   */
  public record Waiting(Instant firstAt, Instant lastAt, long last, long count) {}

  /**
   * @param mark the number up to which all was delivered
   * @return empty if nothing waits
   */
  public Optional<Waiting> waiting(StatelessSession session, String source, long mark) {
    return session
        .createSelectionQuery(
            "select min(editedAt), max(editedAt), max(number), count(*) from ResourceEntity"
                + " where source = :source and number > :mark",
            Object[].class)
        .setParameter("source", source)
        .setParameter("mark", mark)
        .uniqueResultOptional()
        .filter(found -> found[2] != null)
        .map(
            found ->
                new Waiting(
                    (Instant) found[0], (Instant) found[1], (Long) found[2], (Long) found[3]));
  }

  /** What was written after a number, deleted ones too, in the order of their writing. */
  public void eachAfter(
      StatelessSession session,
      String source,
      Resource.Kind kind,
      long mark,
      Consumer<Resource> each) {
    stream(
        session
            .createSelectionQuery(
                "from ResourceEntity where source = :source and number > :mark and kind = :kind"
                    + " order by source, number",
                ResourceEntity.class)
            .setParameter("source", source)
            .setParameter("mark", mark)
            .setParameter("kind", kind.name()),
        each);
  }

  /** Users under keys, deleted ones too. */
  public List<Resource> ofKeys(StatelessSession session, String source, Collection<String> keys) {
    return session
        .createSelectionQuery(
            "from ResourceEntity where source = :source and sourceKey in :keys and kind = 'USER'"
                + " order by number",
            ResourceEntity.class)
        .setParameter("source", source)
        .setParameter("keys", keys)
        .stream()
        .map(Resources::resource)
        .toList();
  }

  /** The ids of a group's members who are not deleted. */
  public SortedSet<String> members(StatelessSession session, String group) {
    return new TreeSet<>(
        session
            .createNativeQuery(
                "select m.member_id from pushed_member m join pushed p on p.id = m.member_id"
                    + " where m.group_id = :group and not m.gone and not p.deleted",
                String.class)
            .setParameter("group", group)
            .getResultList());
  }

  /** Puts people into a group, or takes them out of it; it waits for a delivery then. */
  public void putMembers(
      StatelessSession session, Resource group, Collection<String> members, boolean gone) {
    var number = Numbers.next(session, "pushed_seq");
    for (var member : members) {
      session
          .createNativeMutationQuery(
              "merge into pushed_member (group_id, member_id, source, gone, number)"
                  + " key (group_id, member_id) values (:group, :member, :source, :gone, :number)")
          .setParameter("group", group.id())
          .setParameter("member", member)
          .setParameter("source", group.source())
          .setParameter("gone", gone)
          .setParameter("number", number)
          .executeUpdate();
    }
  }

  /** Takes everybody out of a group; it waits for a delivery then. */
  public void emptied(StatelessSession session, Resource group) {
    session
        .createNativeMutationQuery(
            "update pushed_member set gone = true, number = :number"
                + " where group_id = :group and not gone")
        .setParameter("number", Numbers.next(session, "pushed_seq"))
        .setParameter("group", group.id())
        .executeUpdate();
  }

  /**
   * A membership by the keys of both.
   *
   * @param group the id of the group
   */
  public record Membership(String group, String key, boolean gone) {}

  /**
   * What changed of memberships after a number. Who left a group under one id and is in it under
   * another is in it.
   */
  public void eachMembershipAfter(
      StatelessSession session, String source, long mark, Consumer<Membership> each) {
    try (var rows =
        session
            .createNativeQuery(
                "select m.group_id, p.source_key, min(m.gone) from pushed_member m"
                    + " join pushed p on p.id = m.member_id"
                    + " where m.source = :source and m.number > :mark"
                    + " group by m.group_id, p.source_key order by m.group_id, p.source_key",
                Object[].class)
            .setParameter("source", source)
            .setParameter("mark", mark)
            .getResultStream()) {
      rows.map(row -> new Membership((String) row[0], (String) row[1], (Boolean) row[2]))
          .forEach(each);
    }
  }

  private static Resource resource(ResourceEntity row) {
    return new Resource(
        row.id,
        row.source,
        Resource.Kind.valueOf(row.kind),
        row.uniqueName,
        row.externalId,
        row.sourceKey,
        row.formerKey,
        row.body,
        row.deleted,
        row.createdAt,
        row.editedAt,
        row.version,
        row.number);
  }
}
