package ebb.store.people;

import ebb.core.operator.Reach;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.store.Page;
import ebb.store.ReachClause;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/** People as lists show them: filtered, ordered, counted, found by what somebody types. */
public final class PeopleLists {
  /**
   * A page of people. Those who have no value to be ordered by come last.
   *
   * @param cursor as the page before gave it; null for the first page
   */
  public Page<StoredPerson> list(
      StatelessSession session,
      PeopleFilter filter,
      PeopleOrder order,
      PeopleCursor cursor,
      int limit) {
    var rows = new ArrayList<PersonEntity>();
    if (cursor == null || !cursor.isBlank()) {
      rows.addAll(rows(session, filter, order, cursor, false, limit + 1));
    }
    if (rows.size() <= limit && order.mayBeBlank()) {
      var within = cursor != null && cursor.isBlank() ? cursor : null;
      rows.addAll(rows(session, filter, order, within, true, limit + 1 - rows.size()));
    }
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    return new Page<>(
        shown.stream().map(PersonMapper::person).toList(),
        rows.size() > limit ? order.after(shown.getLast()).text() : null);
  }

  private static List<PersonEntity> rows(
      StatelessSession session,
      PeopleFilter filter,
      PeopleOrder order,
      PeopleCursor cursor,
      boolean blank,
      int limit) {
    var query =
        session
            .createSelectionQuery(
                "from PersonEntity p where "
                    + filter.condition()
                    + order.condition(blank, cursor != null)
                    + order.clause(blank, filter),
                PersonEntity.class)
            .setMaxResults(limit);
    filter.parameters().forEach(query::setParameter);
    if (cursor != null) {
      cursor.parameters(order, blank).forEach(query::setParameter);
    }
    return query.list();
  }

  /**
   * How many people a filter finds, counted no further than a limit; everybody, and those of one
   * department, are counted all.
   *
   * @return more than the limit where there are more
   */
  public long count(StatelessSession session, PeopleFilter filter, int limit) {
    if (filter == PeopleFilter.EVERYONE) {
      return session
          .createSelectionQuery("select count(*) from PersonEntity", Long.class)
          .getSingleResult();
    }
    // Of one department the index holds all that is counted; else rows would be looked up without
    // end.
    return filter.isOneDepartment()
        ? filled(
                filter,
                session.createSelectionQuery(
                    "select count(*) from PersonEntity p where " + filter.condition(), Long.class))
            .getSingleResult()
        : filled(
                filter,
                session.createSelectionQuery(
                    "select p.id from PersonEntity p where " + filter.condition(), Long.class))
            .setMaxResults(limit + 1)
            .list()
            .size();
  }

  private static <T> SelectionQuery<T> filled(PeopleFilter filter, SelectionQuery<T> query) {
    filter.parameters().forEach(query::setParameter);
    return query;
  }

  /** The values people have for an attribute, in order; found by leaps through its index. */
  public List<String> valuesOf(StatelessSession session, String attribute, int limit) {
    var column = PeopleFilter.column(attribute);
    var values = new ArrayList<String>();
    for (String last = ""; values.size() < limit; last = values.getLast()) {
      var next =
          session
              .createSelectionQuery(
                  "select min(%1$s) from PersonEntity p where %1$s > :last".formatted(column),
                  String.class)
              .setParameter("last", last)
              .getSingleResultOrNull();
      if (next == null) {
        break;
      }
      values.add(next);
    }
    return values;
  }

  /** The units that are known, in order. */
  public Set<String> units(StatelessSession session, int most) {
    return new LinkedHashSet<>(valuesOf(session, "department", most));
  }

  /**
   * People whose name, either part first, or login begins with a text, or whose number it is.
   *
   * @param folded the text, folded
   */
  public List<StoredPerson> find(
      StatelessSession session, String folded, String number, Reach reach, int limit) {
    var filter = PeopleFilter.within(reach);
    var found = new LinkedHashMap<Long, PersonEntity>();
    // One query a column: the database leaps through one index each, and through none for an or.
    for (var column : List.of("callName", "sortName", "login")) {
      var query =
          session
              .createSelectionQuery(
                  "from PersonEntity p where %2$s and p.%1$s >= :from and p.%1$s < :to order by p.%1$s, p.id"
                      .formatted(column, filter.condition()),
                  PersonEntity.class)
              .setParameter("from", folded)
              .setParameter("to", folded + Character.MAX_VALUE)
              .setMaxResults(limit);
      filter.parameters().forEach(query::setParameter);
      query.list().forEach(row -> found.put(row.id, row));
    }
    var byNumber =
        session
            .createSelectionQuery(
                "from PersonEntity p where %s and p.employeeNumber = :number"
                    .formatted(filter.condition()),
                PersonEntity.class)
            .setParameter("number", number)
            .setMaxResults(limit);
    filter.parameters().forEach(byNumber::setParameter);
    byNumber.list().forEach(row -> found.put(row.id, row));
    return found.values().stream().limit(limit).map(PersonMapper::person).toList();
  }

  /** Who came last, the newest first. */
  public List<StoredPerson> newest(StatelessSession session, Reach reach, int limit) {
    var within = ReachClause.on("p.id", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "from PersonEntity p where p.attributes <> '{}'"
                        + within.within()
                        + " order by p.id desc",
                    PersonEntity.class)
                .setMaxResults(limit))
        .stream()
        .map(PersonMapper::person)
        .toList();
  }

  /** How many people belong to each unit, those who have departed on a day left out. */
  public Map<String, Long> countByUnit(StatelessSession session, Reach reach, LocalDate day) {
    var within = ReachClause.on("p.id", reach);
    return within
        .fill(
            session
                .createSelectionQuery(
                    "select p.department, count(*) from PersonEntity p where p.department is not null"
                        + " and p.attributes <> '{}'"
                        + " and (p.endDate is null or p.endDate >= :day)"
                        + within.within()
                        + " group by p.department",
                    Object[].class)
                .setParameter("day", day))
        .stream()
        .collect(Collectors.toMap(row -> (String) row[0], row -> (Long) row[1]));
  }

  /** People of these units, by their numbers, after the one given. */
  public List<PersonId> inUnits(
      StatelessSession session, Collection<String> units, PersonId after, int limit) {
    return units.isEmpty()
        ? List.of()
        : ids(
            session
                .createSelectionQuery(
                    "select id from PersonEntity where department in (:units) and id > :after"
                        + " order by id",
                    Long.class)
                .setParameterList("units", units)
                .setParameter("after", after.value())
                .setMaxResults(limit)
                .list());
  }

  /** Whoever is in further units, and in none of these by their main one. */
  public List<PersonId> inFurtherUnits(
      StatelessSession session, Collection<String> others, PersonId after, int limit) {
    if (others.isEmpty()) {
      return List.of();
    }
    return ids(
        session
            .createSelectionQuery(
                "select v.id.personId from PersonValueEntity v, PersonEntity p"
                    + " where v.id.name = :name and v.id.personId > :after"
                    + " and p.id = v.id.personId"
                    + " and (p.department is null or p.department not in (:others))"
                    + " order by v.id.personId",
                Long.class)
            .setParameter("name", Attributes.FURTHER_UNITS)
            .setParameterList("others", others)
            .setParameter("after", after.value())
            .setMaxResults(limit)
            .list());
  }

  private static List<PersonId> ids(List<Long> values) {
    return values.stream().map(PersonId::new).toList();
  }
}
