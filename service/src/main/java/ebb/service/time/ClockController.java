package ebb.service.time;

import ebb.api.ClockRequest;
import ebb.api.ClockView;
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

  @GetMapping
  ClockView now() {
    return new ClockView(clock.instant(), clock.isMovable());
  }

  @PostMapping
  ClockView move(@RequestBody ClockRequest request) {
    clock.moveTo(request.to());
    return now();
  }
}
