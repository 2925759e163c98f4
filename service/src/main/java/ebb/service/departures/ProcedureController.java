package ebb.service.departures;

import ebb.api.Listing;
import ebb.api.ProcedureEdit;
import ebb.api.ProcedureView;
import ebb.core.departure.Procedure;
import ebb.core.departure.ReplyText;
import ebb.core.operator.Act;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.security.Principal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How departures go. What is under way goes on by the procedure with which it began. */
@RestController
@RequestMapping("/api/v1/procedures")
class ProcedureController {
  /** What stands in the address for all of whose kind nothing is said. */
  private static final String OTHERS = "others";

  /** A quarter: by then whoever writes now and then has written. */
  private static final int USUAL_REPLY = 90;

  private final Database database;
  private final BusinessClock clock;
  private final ProcedureBook procedures;
  private final Journal journal;

  ProcedureController(
      Database database, BusinessClock clock, ProcedureBook procedures, Journal journal) {
    this.database = database;
    this.clock = clock;
    this.procedures = procedures;
    this.journal = journal;
  }

  /** That of all others first, then by kind of people. */
  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<ProcedureView> procedures() {
    return Listing.whole(
        database.read(procedures::all).entrySet().stream()
            .map(
                entry ->
                    new ProcedureView(
                        entry.getKey().equals(ProcedureBook.OTHERS) ? null : entry.getKey(),
                        entry.getValue().handOverDays(),
                        entry.getValue().waitDays(),
                        entry.getValue().asksReturn(),
                        entry.getValue().reply() == null ? null : entry.getValue().reply().text(),
                        entry.getValue().reply() == null ? null : entry.getValue().reply().days(),
                        entry.getValue().forgetDays()))
            .toList());
  }

  /**
   * @param kind of people; "others" for all of whose kind nothing is said
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{kind}")
  Listing<ProcedureView> putProcedure(
      @PathVariable String kind, @RequestBody ProcedureEdit edit, Principal principal) {
    if (edit.handOverDays() < 0
        || edit.handOverDays() > edit.waitDays()
        || edit.waitDays() > Procedure.MOST_DAYS) {
      throw Refusal.invalid(
          new Problem(
              "procedure-days",
              "%d days until the handover and %d until the deletion make no procedure."
                  .formatted(edit.handOverDays(), edit.waitDays()),
              "Nothing is deleted before it is handed over, and nothing waits longer than %,d days."
                  .formatted(Procedure.MOST_DAYS),
              "Hand over after no more days than are waited.",
              Where.field("handOverDays")));
    }
    if (edit.forgetDays() != null
        && (edit.forgetDays() < 1 || edit.forgetDays() > Procedure.MOST_DAYS)) {
      throw Refusal.invalid(
          new Problem(
              "procedure-forgets",
              "Nobody can be forgotten after %,d days.".formatted(edit.forgetDays()),
              "It is done for good, a day after their departure has ended at the earliest.",
              "Give 1 to %,d days, or none: then they are remembered."
                  .formatted(Procedure.MOST_DAYS),
              Where.field("forgetDays")));
    }
    var reply = reply(edit);
    return write(
        kind,
        new Procedure(
            edit.handOverDays(), edit.waitDays(), edit.asksReturn(), reply, edit.forgetDays()),
        "departures of %s: handover after %d days, deletion after %d%s%s%s"
            .formatted(
                kind,
                edit.handOverDays(),
                edit.waitDays(),
                edit.asksReturn() ? ", once it is said that they are not coming back" : "",
                reply == null ? "" : ", an automatic reply for %d".formatted(reply.days()),
                edit.forgetDays() == null
                    ? ""
                    : ", forgotten %d after the end".formatted(edit.forgetDays())),
        principal);
  }

  /** Null for none. */
  private static ReplyText reply(ProcedureEdit edit) {
    if (edit.replyText() == null || edit.replyText().isBlank()) {
      return null;
    }
    var reply =
        new ReplyText(
            edit.replyText().strip(), edit.replyDays() == null ? USUAL_REPLY : edit.replyDays());
    reply
        .problem()
        .ifPresent(
            problem -> {
              throw Refusal.invalid(problem);
            });
    return reply;
  }

  /** They go as all others, or as is usual. */
  @Allowed(Act.EDIT_SETTINGS)
  @DeleteMapping("/{kind}")
  Listing<ProcedureView> dropProcedure(@PathVariable String kind, Principal principal) {
    return write(kind, null, "departures of %s go as others do".formatted(kind), principal);
  }

  private Listing<ProcedureView> write(
      String kind, Procedure procedure, String words, Principal principal) {
    database.writeAll(
        session -> {
          procedures.put(session, kind.equals(OTHERS) ? ProcedureBook.OTHERS : kind, procedure);
          journal.write(session, clock.instant(), Deed.of(principal.getName(), words));
        });
    return procedures();
  }
}
