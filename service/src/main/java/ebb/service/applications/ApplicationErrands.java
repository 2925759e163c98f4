package ebb.service.applications;

import ebb.api.ErrandView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.applications.Applications;
import java.util.List;
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
            .filter(one -> one.problem() != null)
            .limit(MOST)
            .map(
                one ->
                    new ErrandView(
                        STOPPED,
                        "application",
                        one.name(),
                        one.name() + " is not well",
                        one.problem().what(),
                        "See why",
                        one.checkedAt()))
            .toList()
        : List.of();
  }
}
