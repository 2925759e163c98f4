package ebb.service.authority;

import ebb.api.ErrandView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.people.StoredConflicts;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** That sources do not agree, for those who may say whom to believe. */
@Component
final class AuthorityErrands implements Errands {
  private static final int COUNTED = 1_000;

  private final StoredConflicts conflicts;

  AuthorityErrands(StoredConflicts conflicts) {
    this.conflicts = conflicts;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    if (!caller.may(Act.EDIT_PEOPLE) || !caller.reach().isEverybody()) {
      return List.of();
    }
    var count = conflicts.countOpen(session, COUNTED);
    return count == 0
        ? List.of()
        : List.of(
            new ErrandView(
                WAITING,
                "conflicts",
                "all",
                count == 1
                    ? "Sources do not agree on one value"
                    : "Sources do not agree on %s%,d values"
                        .formatted(count == COUNTED ? "at least " : "", count),
                "the strongest source's holds until somebody says otherwise",
                "Compare",
                null));
  }
}
