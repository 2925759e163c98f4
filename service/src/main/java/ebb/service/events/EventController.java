package ebb.service.events;

import ebb.core.operator.Act;
import ebb.service.web.Allowed;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

@RestController
@RequestMapping("/api/v1/events")
class EventController {
  private final Pulse pulse;

  EventController(Pulse pulse) {
    this.pulse = pulse;
  }

  /** Server-sent events: "changed" whenever anything was written. */
  @Allowed(Act.SEE)
  @GetMapping(produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter follow() {
    return pulse.open();
  }
}
