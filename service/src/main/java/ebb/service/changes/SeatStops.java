package ebb.service.changes;

import ebb.connectors.seats.Seated;
import ebb.core.application.Part;
import ebb.core.application.Seats.Seat;
import ebb.core.application.Unreachable;
import ebb.core.change.ChangeKind;
import ebb.core.guard.SeatGuard;
import ebb.core.operator.Reach;
import ebb.core.problem.Problem;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.changes.Changes;
import ebb.store.changes.Changes.Effect;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Asks applications whether they have as many seats as a set would take. */
@Component
final class SeatStops {
  private static final Logger LOG = LoggerFactory.getLogger(SeatStops.class);

  private final Database database;
  private final Changes changes;
  private final Connections connections;
  private final Applications applications;

  SeatStops(
      Database database, Changes changes, Connections connections, Applications applications) {
    this.database = database;
    this.changes = changes;
    this.connections = connections;
    this.applications = applications;
  }

  /** Calls applications: not within a transaction. One that does not answer stops nothing. */
  List<Problem> of(long set) {
    if (!isAnywhere()) {
      return List.of();
    }
    var effects =
        database.read(session -> changes.effects(session, set, Reach.EVERYBODY)).stream()
            .filter(effect -> isOfSeats(effect.kind()))
            .collect(Collectors.groupingBy(Effect::application, TreeMap::new, Collectors.toList()));
    var stops = new ArrayList<Problem>();
    effects.forEach((application, all) -> stops.addAll(of(application, all)));
    return stops;
  }

  /** Counting what a large set would do takes a while, and mostly nothing of it is a seat. */
  private boolean isAnywhere() {
    return database.read(applications::list).stream()
        .anyMatch(one -> connections.capabilities(one.name()).has(Part.SEATS));
  }

  private static boolean isOfSeats(ChangeKind kind) {
    return kind == ChangeKind.TAKE_SEAT || kind == ChangeKind.FREE_SEAT;
  }

  private List<Problem> of(String application, List<Effect> effects) {
    var more = counts(effects, ChangeKind.TAKE_SEAT);
    var fewer = counts(effects, ChangeKind.FREE_SEAT);
    if (more.isEmpty() || !connections.capabilities(application).has(Part.SEATS)) {
      return List.of();
    }
    var there = there(application);
    var names =
        database.read(session -> applications.get(session, application)).orElseThrow().settings();
    return more.keySet().stream()
        .filter(name -> there.containsKey(theirs(names, name)))
        .flatMap(
            name ->
                SeatGuard.check(
                    application,
                    name,
                    there.get(theirs(names, name)),
                    more.get(name),
                    fewer.getOrDefault(name, 0L))
                    .stream())
        .toList();
  }

  private static String theirs(Map<String, String> settings, String name) {
    return settings.getOrDefault(Seated.NAME + name, name);
  }

  private static Map<String, Long> counts(List<Effect> effects, ChangeKind kind) {
    return effects.stream()
        .filter(effect -> effect.kind() == kind)
        .collect(Collectors.toMap(Effect::group, Effect::people, Long::sum, TreeMap::new));
  }

  private Map<String, Seat> there(String application) {
    var seats = connections.to(application).seats();
    try {
      return seats.isEmpty()
          ? Map.of()
          : seats.get().all().stream().collect(Collectors.toMap(Seat::id, seat -> seat));
    } catch (Unreachable e) {
      LOG.info("{} could not be asked about seats: {}", application, e.problem().what());
      return Map.of();
    }
  }
}
