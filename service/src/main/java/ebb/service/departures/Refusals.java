package ebb.service.departures;

import ebb.core.change.Change;
import ebb.core.change.ChangeState;
import ebb.core.departure.Removal;
import ebb.core.execution.Result;
import ebb.service.time.BusinessClock;
import ebb.store.Json;
import ebb.store.settings.Settings;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** How many removals in a row each application refused, counted as they are recorded. */
@Component
final class Refusals {
  private static final String KEY = "deletions-refused.";

  /** After that it is tried with some again. */
  private static final Duration COUNTED = Duration.ofDays(1);

  private final BusinessClock clock;
  private final Settings settings;

  Refusals(BusinessClock clock, Settings settings) {
    this.clock = clock;
    this.settings = settings;
  }

  private record Row(int length, Instant last) {}

  int inARow(StatelessSession session, String application) {
    return row(session, application).map(Row::length).orElse(0);
  }

  /**
   * @return whether a removal went through for which others waited
   */
  boolean count(StatelessSession session, List<Result> results) {
    var waited = false;
    for (var result : results) {
      waited |= result.change().kind().endsAccount() && count(session, result.change());
    }
    return waited;
  }

  private boolean count(StatelessSession session, Change removal) {
    var length = inARow(session, removal.application());
    if (removal.state() == ChangeState.REFUSED) {
      put(session, removal.application(), length + 1);
    } else if (removal.state().isDone() && length > 0) {
      put(session, removal.application(), 0);
      return length >= Removal.MOST_REFUSED;
    }
    return false;
  }

  private Optional<Row> row(StatelessSession session, String application) {
    return settings
        .get(session, KEY + application)
        .map(text -> Json.read(text, Row.class))
        .filter(row -> clock.instant().isBefore(row.last().plus(COUNTED)));
  }

  private void put(StatelessSession session, String application, int length) {
    settings.put(session, KEY + application, Json.write(new Row(length, clock.instant())));
  }
}
