package ebb.service.changes;

import ebb.core.application.Application.Pause;
import ebb.store.Json;
import ebb.store.settings.Settings;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Stops all work on all applications, in every process, until somebody lets it go on. */
@Component
final class Brake {
  private static final String NAME = "execution.stopped";

  private final Settings settings;

  Brake(Settings settings) {
    this.settings = settings;
  }

  /** Who stopped the work, why and when; empty while it goes on. */
  Optional<Pause> stopped(StatelessSession session) {
    return settings.get(session, NAME).map(text -> Json.read(text, Pause.class));
  }

  void stop(StatelessSession session, Pause pause) {
    settings.put(session, NAME, Json.write(pause));
  }

  void goOn(StatelessSession session) {
    settings.drop(session, NAME);
  }
}
