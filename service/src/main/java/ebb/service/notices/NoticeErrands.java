package ebb.service.notices;

import ebb.api.ErrandView;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.notices.Notices;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Notices that reach nobody. */
@Component
final class NoticeErrands implements Errands {
  private final Notices notices;

  NoticeErrands(Notices notices) {
    this.notices = notices;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return notices.undeliverable(session, caller.reach(), MOST).stream()
        .map(
            notice ->
                new ErrandView(
                    WAITING,
                    "person",
                    notice.person().toString(),
                    "Not delivered: " + notice.subject(),
                    notice.problem() == null ? null : notice.problem().what(),
                    "Reach them otherwise",
                    notice.createdAt()))
        .toList();
  }
}
