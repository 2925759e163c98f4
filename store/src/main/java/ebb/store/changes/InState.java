package ebb.store.changes;

import ebb.core.change.ChangeState;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/**
 * Finds changes by their state alone. The index of the queue begins with the application, and is
 * used for one state at a time: asked for all at once, every change there ever was would be read.
 */
final class InState {
  private static final String FROM =
      " from ChangeEntity where application = :application and state = :state";

  static long count(StatelessSession session, String application, ChangeState state) {
    return query(session, "select count(*)" + FROM, application, state).getSingleResult();
  }

  static long count(StatelessSession session, Collection<ChangeState> states) {
    return each(session, states, "select count(*)" + FROM, SelectionQuery::stream)
        .mapToLong(Long::longValue)
        .sum();
  }

  /** Sets with changes in any of the states, newest first, at most so many. */
  static List<Long> sets(StatelessSession session, Collection<ChangeState> states, int limit) {
    return each(
            session,
            states,
            "select distinct changeSetId" + FROM + " order by changeSetId desc",
            query -> query.setMaxResults(limit).stream())
        .distinct()
        .sorted(Comparator.reverseOrder())
        .limit(limit)
        .toList();
  }

  private static Stream<Long> each(
      StatelessSession session,
      Collection<ChangeState> states,
      String text,
      Function<SelectionQuery<Long>, Stream<Long>> answer) {
    return session
        .createSelectionQuery("select name from ApplicationEntity", String.class)
        .list()
        .stream()
        .flatMap(name -> states.stream().map(state -> query(session, text, name, state)))
        .flatMap(answer);
  }

  private static SelectionQuery<Long> query(
      StatelessSession session, String text, String application, ChangeState state) {
    return session
        .createSelectionQuery(text, Long.class)
        .setParameter("application", application)
        .setParameter("state", state.name());
  }

  private InState() {}
}
