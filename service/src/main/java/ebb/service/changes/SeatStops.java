package ebb.service.changes;

import ebb.connectors.seats.Seated;
import ebb.core.application.Application;
import ebb.core.application.Seats.Seat;
import ebb.core.application.Unreachable;
import ebb.core.change.Needs;
import ebb.core.guard.SeatGuard;
import ebb.core.problem.Problem;
import ebb.service.connections.Connections;
import ebb.store.Database;
import ebb.store.applications.Applications;
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
  private final Connections connections;
  private final Applications applications;

  SeatStops(Database database, Connections connections, Applications applications) {
    this.database = database;
    this.connections = connections;
    this.applications = applications;
  }

  /** Calls applications: not within a transaction. One that does not answer stops nothing. */
  List<Problem> of(Needs needs) {
    var stops = new ArrayList<Problem>();
    needs
        .seatsTaken()
        .forEach(
            (application, taken) ->
                stops.addAll(
                    of(
                        application,
                        taken,
                        needs.seatsFreed().getOrDefault(application, new TreeMap<>()))));
    return stops;
  }

  private List<Problem> of(String application, Map<String, Long> taken, Map<String, Long> freed) {
    var names =
        database
            .read(session -> applications.get(session, application))
            .map(Application::settings)
            .orElse(Map.of());
    var there = there(application);
    return taken.keySet().stream()
        .filter(name -> there.containsKey(theirs(names, name)))
        .flatMap(
            name ->
                SeatGuard.check(
                    application,
                    name,
                    there.get(theirs(names, name)),
                    taken.get(name),
                    freed.getOrDefault(name, 0L))
                    .stream())
        .toList();
  }

  private static String theirs(Map<String, String> settings, String name) {
    return settings.getOrDefault(Seated.NAME + name, name);
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
