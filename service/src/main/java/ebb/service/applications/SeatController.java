package ebb.service.applications;

import ebb.api.Listing;
import ebb.api.PriceView;
import ebb.api.SeatView;
import ebb.connectors.seats.Seated;
import ebb.core.application.SeatPrice;
import ebb.core.application.Seats.Seat;
import ebb.core.application.Unreachable;
import ebb.core.operator.Act;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Seats of applications, asked of them at that moment. */
@RestController
@RequestMapping("/api/v1/applications/{name}/seats")
class SeatController {
  private final Database database;
  private final Connections connections;
  private final Applications applications;
  private final Accounts accounts;

  SeatController(
      Database database, Connections connections, Applications applications, Accounts accounts) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.connections = connections;
  }

  /** How many seats there are and how many are taken; empty where the application cannot say. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<SeatView> seats(@PathVariable String name) {
    var seats = connections.to(name).seats();
    if (seats.isEmpty()) {
      return Listing.whole(List.of());
    }
    var settings =
        database.read(session -> applications.get(session, name)).orElseThrow().settings();
    var prices = SeatPrice.of(settings);
    var off = database.read(session -> accounts.seatsOfSuspended(session, name));
    try {
      return Listing.whole(
          seats.get().all().stream()
              .map(seat -> view(seat, off, prices, Seated.names(settings)))
              .toList());
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
  }

  /**
   * @param names the application's name of a seat to ours, where they differ
   */
  private static SeatView view(
      Seat seat, Map<String, Long> off, Map<String, SeatPrice> prices, Map<String, String> names) {
    var ours = names.getOrDefault(seat.id(), seat.id());
    return new SeatView(
        seat.id(),
        seat.name(),
        seat.total(),
        seat.taken(),
        off.getOrDefault(ours, 0L),
        Optional.ofNullable(prices.get(ours))
            .map(price -> new PriceView(price.amount(), price.currency()))
            .orElse(null));
  }
}
