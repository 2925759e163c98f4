package ebb.service.changes;

import ebb.store.applications.Applications;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Applications in which nothing is carried out until somebody lets it go on. */
@Component
final class Resting {
  private final Brake brake;
  private final Applications applications;

  Resting(Brake brake, Applications applications) {
    this.brake = brake;
    this.applications = applications;
  }

  boolean isAtRest(StatelessSession session, String application) {
    return brake.stopped(session).isPresent()
        || applications.get(session, application).filter(one -> one.pause() != null).isPresent();
  }

  Set<String> now(StatelessSession session) {
    var isStopped = brake.stopped(session).isPresent();
    return applications.list(session).stream()
        .filter(one -> isStopped || one.pause() != null)
        .map(one -> one.name())
        .collect(Collectors.toSet());
  }
}
