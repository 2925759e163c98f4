package ebb.service.applications;

import ebb.api.ErrandView;
import ebb.core.application.Application;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.applications.Applications;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Applications that are not well. */
@Component
final class ApplicationErrands implements Errands {
  private final Applications applications;

  ApplicationErrands(Applications applications) {
    this.applications = applications;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return caller.may(Act.SEE_SETTINGS)
        ? applications.list(session).stream()
            .flatMap(one -> errand(one).stream())
            .limit(MOST)
            .toList()
        : List.of();
  }

  private static Optional<ErrandView> errand(Application one) {
    if (one.problem() != null) {
      return Optional.of(
          errand(
              one, one.name() + " is not well", one.problem().what(), "See why", one.checkedAt()));
    }
    return Optional.ofNullable(one.pause())
        .map(
            pause ->
                errand(
                    one,
                    one.name() + " is paused",
                    "By %s: %s".formatted(pause.by(), pause.why()),
                    "Let it go on",
                    pause.at()));
  }

  private static ErrandView errand(
      Application one, String title, String why, String act, Instant at) {
    return new ErrandView(STOPPED, "application", one.name(), title, why, act, at);
  }
}
