package ebb.service.time;

import ebb.api.ClockRequest;
import ebb.api.ClockView;
import ebb.core.operator.Act;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/clock")
class ClockController {
  private final BusinessClock clock;

  ClockController(BusinessClock clock) {
    this.clock = clock;
  }

  @Allowed(Act.SEE)
  @GetMapping
  ClockView now() {
    return new ClockView(clock.instant(), clock.isMovable());
  }

  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping
  ClockView move(@RequestBody ClockRequest request) {
    clock.moveTo(Requests.present(request.to(), "to"));
    return now();
  }
}
