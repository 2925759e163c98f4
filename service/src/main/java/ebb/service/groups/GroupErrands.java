package ebb.service.groups;

import ebb.api.ErrandView;
import ebb.core.operator.Act;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.applications.GroupMarks;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Groups that are in more hands than they may be. */
@Component
final class GroupErrands implements Errands {
  private final GroupMarks marks;

  GroupErrands(GroupMarks marks) {
    this.marks = marks;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    return caller.may(Act.SEE_SETTINGS)
        ? marks.crowded(session, MOST).stream().map(GroupErrands::errand).toList()
        : List.of();
  }

  private static ErrandView errand(GroupMarks.Crowded crowded) {
    return new ErrandView(
        WAITING,
        "group",
        crowded.group(),
        "%d accounts in use are in %s of %s; at most %d may be"
            .formatted(crowded.accounts(), crowded.group(), crowded.application(), crowded.most()),
        "whoever is in it because of a rule leaves by the rule, whoever was found there by hand",
        "See who",
        null);
  }
}
