package ebb.service.applications;

import ebb.api.Listing;
import ebb.api.SeatView;
import ebb.core.application.Unreachable;
import ebb.core.operator.Act;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.web.Allowed;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Seats of applications, asked of them at that moment. */
@RestController
@RequestMapping("/api/v1/applications/{name}/seats")
class SeatController {
  private final Connections connections;

  SeatController(Connections connections) {
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
    try {
      return Listing.whole(
          seats.get().all().stream()
              .map(seat -> new SeatView(seat.id(), seat.name(), seat.total(), seat.taken()))
              .toList());
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
  }
}
