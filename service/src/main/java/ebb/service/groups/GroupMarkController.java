package ebb.service.groups;

import ebb.api.GroupMarkEdit;
import ebb.api.GroupMarkView;
import ebb.api.Listing;
import ebb.core.application.GroupMark;
import ebb.core.application.GroupMark.Risk;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.applications.GroupMarks;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How much a group lets one do, and in how many hands it may be. */
@RestController
@RequestMapping("/api/v1/group-marks")
class GroupMarkController {
  private static final int LONGEST = 400;

  private final Database database;
  private final BusinessClock clock;
  private final GroupMarks marks;
  private final Journal journal;

  GroupMarkController(Database database, BusinessClock clock, GroupMarks marks, Journal journal) {
    this.database = database;
    this.clock = clock;
    this.marks = marks;
    this.journal = journal;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<GroupMarkView> groupMarks() {
    return Listing.whole(
        database.read(marks::list).stream().map(GroupMarkController::view).toList());
  }

  /** Says it of a group whether or not anybody is in it; an application may not be read yet. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  GroupMarkView markGroup(
      @PathVariable String name, @RequestBody GroupMarkEdit edit, Principal principal) {
    var risk = Requests.blankAsNull(edit.risk());
    var mark =
        new GroupMark(
            name,
            risk == null ? null : Requests.word(Risk.class, risk, "risk"),
            Requests.blankAsNull(edit.scope()),
            edit.most());
    mustBeUsable(mark);
    var now = clock.instant();
    database.writeAll(
        session -> {
          marks.put(session, mark, principal.getName(), now);
          journal.write(
              session, now, Deed.of(principal.getName(), words(mark)).because(edit.reason()));
        });
    return view(new GroupMarks.Kept(mark, principal.getName(), now));
  }

  private static void mustBeUsable(GroupMark mark) {
    if (mark.most() != null && mark.most() < 0) {
      throw Refusal.invalid(
          new Problem(
              "limit-invalid",
              "%d is no number of accounts.".formatted(mark.most()),
              "Nobody can be counted against it.",
              "Say nothing or more; leave it out for any number.",
              Where.field("most")));
    }
    if (mark.name().length() > LONGEST || mark.scope() != null && mark.scope().length() > LONGEST) {
      throw Refusal.invalid(
          new Problem(
              "too-long",
              "A name and a scope have %d characters at most.".formatted(LONGEST),
              "They stand in lists.",
              "Say it shorter.",
              Where.field("scope")));
    }
  }

  private static String words(GroupMark mark) {
    return mark.isEmpty()
        ? "said no more of group " + mark.name()
        : "said of group %s: %s"
            .formatted(
                mark.name(),
                Stream.of(
                        Optional.ofNullable(mark.risk()).map(risk -> "risk " + risk.word()),
                        Optional.ofNullable(mark.scope()).map(scope -> "opens " + scope),
                        Optional.ofNullable(mark.most()).map("%d in use at most"::formatted))
                    .flatMap(Optional::stream)
                    .collect(Collectors.joining(", ")));
  }

  private static GroupMarkView view(GroupMarks.Kept kept) {
    var mark = kept.mark();
    return new GroupMarkView(
        mark.name(), word(mark), mark.scope(), mark.most(), kept.by(), kept.at());
  }

  static String word(GroupMark mark) {
    return mark.risk() == null ? null : mark.risk().word();
  }
}
