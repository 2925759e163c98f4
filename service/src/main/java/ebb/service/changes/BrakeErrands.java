package ebb.service.changes;

import ebb.api.ErrandView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** All work stands still until somebody lets it go on. */
@Component
final class BrakeErrands implements Errands {
  private final Brake brake;

  BrakeErrands(Brake brake) {
    this.brake = brake;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return caller.may(Act.SEE_SETTINGS)
        ? brake
            .stopped(session)
            .map(
                pause ->
                    new ErrandView(
                        STOPPED,
                        "execution",
                        "stopped",
                        "All work on all applications is stopped",
                        "By %s: %s".formatted(pause.by(), pause.why()),
                        "Let it go on",
                        pause.at()))
            .stream()
            .toList()
        : List.of();
  }
}
