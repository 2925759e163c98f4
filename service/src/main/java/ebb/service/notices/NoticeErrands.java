package ebb.service.notices;

import ebb.api.ErrandView;
import ebb.core.notice.Notice;
import ebb.core.operator.Caller;
import ebb.core.person.PersonId;
import ebb.service.errand.Errands;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Notices that reach nobody: the same one to many people is one errand. */
@Component
final class NoticeErrands implements Errands {
  private static final int NAMED = 3;

  private final Notices notices;
  private final People people;

  NoticeErrands(Notices notices, People people) {
    this.notices = notices;
    this.people = people;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    var all = notices.undeliverable(session, caller.reach(), MOST);
    var names =
        people.displayNames(session, all.stream().map(Notice::person).collect(Collectors.toSet()));
    return all.stream()
        .collect(Collectors.groupingBy(Notice::subject, LinkedHashMap::new, Collectors.toList()))
        .values()
        .stream()
        .map(alike -> errand(alike, names))
        .toList();
  }

  private static ErrandView errand(List<Notice> alike, Map<PersonId, String> names) {
    var first = alike.getFirst();
    var isOne = alike.size() == 1;
    return new ErrandView(
        WAITING,
        isOne ? "person" : "notices",
        isOne ? first.person().toString() : first.subject(),
        "Not delivered: " + first.subject(),
        "To %s%s".formatted(named(alike, names), why(first)),
        "Reach them otherwise",
        alike.getLast().createdAt());
  }

  /** As many as are looked at: there may be more. */
  private static String named(List<Notice> alike, Map<PersonId, String> names) {
    var people = alike.stream().map(Notice::person).distinct().toList();
    var named =
        people.stream()
            .limit(NAMED)
            .map(id -> names.getOrDefault(id, "person " + id))
            .collect(Collectors.joining(", "));
    return people.size() <= NAMED
        ? named + "."
        : "%s and %s%d more."
            .formatted(named, alike.size() < MOST ? "" : "at least ", people.size() - NAMED);
  }

  private static String why(Notice notice) {
    return notice.problem() == null ? "" : " " + notice.problem().what();
  }
}
