package ebb.service.journal;

import ebb.api.JournalEntryView;
import ebb.api.Listing;
import ebb.api.VerificationView;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Verified;
import java.security.Principal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/journal")
class JournalController {
  private final Database database;
  private final Journal journal;
  private final Sealer sealer;
  private final Reaches reaches;

  JournalController(Database database, Journal journal, Sealer sealer, Reaches reaches) {
    this.reaches = reaches;
    this.database = database;
    this.journal = journal;
    this.sealer = sealer;
  }

  @Allowed(Act.SEE)
  @GetMapping
  Listing<JournalEntryView> list(
      @RequestParam(required = false) Long person,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    if (person != null) {
      reaches.require(principal, person);
    }
    return database.read(
        session ->
            Requests.listing(
                journal.list(
                    session,
                    person == null ? null : new PersonId(person),
                    Callers.of(principal).reach(),
                    Requests.cursor(cursor),
                    Requests.limit(limit)),
                JournalController::view));
  }

  /** Walks the whole chain, after sealing what is not sealed yet. */
  @Allowed(Act.SEE)
  @GetMapping("/verification")
  VerificationView verify() {
    sealer.sealAll();
    var before = Verified.START;
    var now = verify(before);
    while (now.place() > before.place()) {
      before = now;
      now = verify(before);
    }
    return new VerificationView(now.place(), now.seal(), now.faults());
  }

  private Verified verify(Verified from) {
    return database.read(session -> journal.verify(session, from));
  }

  private static JournalEntryView view(Journal.Shown shown) {
    var entry = shown.entry();
    return new JournalEntryView(
        entry.id(),
        entry.at(),
        entry.actor(),
        entry.act(),
        entry.person() == null ? null : entry.person().value(),
        entry.reason(),
        shown.details(),
        shown.sealed());
  }
}
