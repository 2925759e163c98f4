package ebb.service.limits;

import ebb.api.LimitEdit;
import ebb.api.LimitView;
import ebb.api.LimitView.LimitExceptionView;
import ebb.api.Listing;
import ebb.core.guard.Limit;
import ebb.core.guard.Limits;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.applications.Applications;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.Sources;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/limits")
class LimitController {
  private static final double LARGEST = 1_000_000;

  private final Database database;
  private final BusinessClock clock;
  private final LimitBook book;
  private final Sources sources;
  private final Applications applications;
  private final Journal journal;

  LimitController(
      Database database,
      BusinessClock clock,
      LimitBook book,
      Sources sources,
      Applications applications,
      Journal journal) {
    this.database = database;
    this.clock = clock;
    this.book = book;
    this.sources = sources;
    this.applications = applications;
    this.journal = journal;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<LimitView> list() {
    var limits = database.read(book::limits);
    return Listing.whole(Arrays.stream(Limit.values()).map(limit -> view(limit, limits)).toList());
  }

  /** Sets a limit, for all or for one source or application. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  LimitView put(@PathVariable String name, @RequestBody LimitEdit edit, Principal principal) {
    var limit =
        Limit.called(name)
            .orElseThrow(() -> Refusal.notFound("limit", name, "See: ebb limits list"));
    mustBeUsable(limit, edit);
    return database.write(
        session -> {
          if (edit.of() != null
              && sources.get(session, edit.of()).isEmpty()
              && applications.get(session, edit.of()).isEmpty()) {
            throw Refusal.notFound(
                "source or application", edit.of(), "See: ebb sources list, ebb applications list");
          }
          book.put(session, limit, edit.of(), edit.value());
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), words(limit, edit)).because(edit.reason()));
          return view(limit, book.limits(session));
        });
  }

  private static String words(Limit limit, LimitEdit edit) {
    return "set limit %s%s to %s"
        .formatted(
            limit.word(),
            edit.of() == null ? "" : " of " + edit.of(),
            edit.value() == null ? "what is usual" : limit.words(edit.value()));
  }

  private static void mustBeUsable(Limit limit, LimitEdit edit) {
    var value = edit.value();
    if (value != null && !(value >= 0 && value <= LARGEST)) {
      throw Refusal.invalid(
          new Problem(
              "limit-invalid",
              "%s is no number for %s.".formatted(value, limit.word()),
              "A limit is nothing or more; a share is a part of one, as in 0.2 for a fifth.",
              "The usual one is %s.".formatted(limit.usual()),
              Where.field("value")));
    }
  }

  private static LimitView view(Limit limit, Limits limits) {
    return new LimitView(
        limit.word(),
        limit.of(),
        limit.unit().word(),
        limit.usual(),
        limits.of(limit),
        limit.why(),
        exceptions(limit, limits.set()));
  }

  private static List<LimitExceptionView> exceptions(Limit limit, Map<String, Double> set) {
    var prefix = Limits.key(limit, "");
    return set.entrySet().stream()
        .filter(entry -> entry.getKey().startsWith(prefix))
        .map(
            entry ->
                new LimitExceptionView(entry.getKey().substring(prefix.length()), entry.getValue()))
        .sorted((one, other) -> one.name().compareTo(other.name()))
        .toList();
  }
}
