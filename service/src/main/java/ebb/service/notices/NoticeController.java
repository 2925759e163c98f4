package ebb.service.notices;

import ebb.api.Listing;
import ebb.api.NoticeView;
import ebb.core.notice.Notice;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.notices.Notices;
import ebb.store.people.People;
import java.security.Principal;
import java.util.Locale;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/notices")
class NoticeController {
  private final Database database;
  private final Notices notices;
  private final People people;
  private final Reaches reaches;

  NoticeController(Database database, Notices notices, People people, Reaches reaches) {
    this.reaches = reaches;
    this.database = database;
    this.notices = notices;
    this.people = people;
  }

  /** Newest first. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<NoticeView> list(
      @RequestParam(required = false) Long person,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    if (person != null) {
      reaches.require(principal, person);
    }
    return database.read(
        session -> {
          var page =
              notices.list(
                  session,
                  person == null ? null : new PersonId(person),
                  Callers.of(principal).reach(),
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          var names =
              people.displayNames(
                  session, page.items().stream().map(Notice::person).collect(Collectors.toSet()));
          return Requests.listing(page, notice -> view(notice, names.get(notice.person())));
        });
  }

  private static NoticeView view(Notice notice, String name) {
    return new NoticeView(
        notice.id(),
        notice.person().value(),
        name,
        notice.kind().name().toLowerCase(Locale.ROOT),
        notice.recipient(),
        notice.subject(),
        notice.state().word(),
        notice.attempts(),
        Problems.view(notice.problem()),
        notice.createdAt(),
        notice.sentAt());
  }
}
