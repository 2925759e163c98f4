package ebb.service.changes;

import ebb.api.ErrandView;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.ChangeState;
import ebb.core.change.SetState;
import ebb.core.operator.Caller;
import ebb.service.errand.Errands;
import ebb.store.changes.ChangeSets;
import ebb.store.changes.Changes;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Change sets that wait for a release, were stopped, are under way or failed in part. */
@Component
final class SetErrands implements Errands {
  private static final Set<ChangeState> UNDER_WAY =
      EnumSet.of(ChangeState.QUEUED, ChangeState.CLAIMED, ChangeState.UNSURE);
  private static final Set<ChangeState> FAILED =
      EnumSet.of(ChangeState.REFUSED, ChangeState.BLOCKED, ChangeState.HALTED);

  private final ChangeSets changeSets;
  private final Changes changes;

  SetErrands(ChangeSets changeSets, Changes changes) {
    this.changeSets = changeSets;
    this.changes = changes;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    var errands = new ArrayList<ErrandView>();
    changeSets
        .list(session, SetState.SHOWN, caller.reach(), caller.name(), null, MOST)
        .items()
        .forEach(set -> errands.add(shown(session, caller, set)));
    Stream.of(FAILED, UNDER_WAY)
        .flatMap(states -> changeSets.withChanges(session, states, MOST).stream())
        .distinct()
        .filter(set -> caller.reach().isEverybody() || set.createdBy().equals(caller.name()))
        .forEach(set -> errands.add(released(session, set)));
    return errands;
  }

  private ErrandView shown(StatelessSession session, Caller caller, ChangeSet set) {
    var people = changes.countPeople(session, set.id(), caller.reach());
    if (!set.stops().isEmpty()) {
      return view(
          set, STOPPED, "Stopped: " + set.title(), set.stops().getFirst().what(), "Look at it");
    }
    var remark = set.remarks().isEmpty() ? "" : " " + set.remarks().getFirst().what();
    return view(
        set,
        WAITING,
        set.title(),
        (people == 1 ? "1 person: " : "%,d people: ".formatted(people))
            + kinds(session, set)
            + "."
            + remark,
        "Look and release");
  }

  /** create 776, update 3 */
  private String kinds(StatelessSession session, ChangeSet set) {
    var kinds = new EnumMap<ChangeKind, Long>(ChangeKind.class);
    changes.counts(session, set.id()).stream()
        .filter(count -> count.state() == ChangeState.PROPOSED)
        .forEach(count -> kinds.merge(count.kind(), count.count(), Long::sum));
    return kinds.isEmpty()
        ? "nothing to do"
        : kinds.entrySet().stream()
            .map(kind -> "%s %,d".formatted(kind.getKey().word(), kind.getValue()))
            .collect(Collectors.joining(", "));
  }

  private ErrandView released(StatelessSession session, ChangeSet set) {
    long failed = 0;
    long open = 0;
    long all = 0;
    for (var count : changes.counts(session, set.id())) {
      all += count.count();
      failed += FAILED.contains(count.state()) ? count.count() : 0;
      open += UNDER_WAY.contains(count.state()) ? count.count() : 0;
    }
    return failed > 0
        ? view(
            set,
            STOPPED,
            set.title(),
            "%,d of %,d changes failed or were stopped.".formatted(failed, all),
            "See why")
        : view(
            set,
            RUNNING,
            set.title(),
            "%,d of %,d changes are done.".formatted(all - open, all),
            "Follow");
  }

  private static ErrandView view(
      ChangeSet set, int urgency, String what, String detail, String action) {
    return new ErrandView(
        urgency, "change-set", Long.toString(set.id()), what, detail, action, set.createdAt());
  }
}
