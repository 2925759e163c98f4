package ebb.service.secrets;

import ebb.core.operator.Act;
import ebb.service.time.BusinessClock;
import ebb.service.web.Allowed;
import ebb.store.Database;
import ebb.store.Sealed;
import ebb.store.SecretBox;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.io.IOException;
import java.security.Principal;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/secrets")
class KeyController {
  private static final int AT_ONCE = 500;

  private final Database database;
  private final SecretBox box;
  private final Journal journal;
  private final BusinessClock clock;

  KeyController(Database database, SecretBox box, Journal journal, BusinessClock clock) {
    this.database = database;
    this.box = box;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * Seals all secrets under a new key, and forgets the old one once nothing needs it. Broken off in
   * its middle nothing is lost, as both keys are kept until its end; called again, it begins anew.
   */
  @Allowed(Act.OPERATORS)
  @PostMapping("/rotation")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  synchronized void rotate(Principal principal) throws IOException, InterruptedException {
    box.addKey();
    // Other processes go on sealing with the old key for a moment.
    Thread.sleep(SecretBox.SETTLES);
    sealAllAnew();
    box.dropOldKeys();
    database.writeAll(
        session ->
            journal.write(
                session,
                clock.instant(),
                Deed.of(principal.getName(), "changed the key of all secrets")));
  }

  private void sealAllAnew() {
    for (var sealed : Sealed.values()) {
      Object after = null;
      do {
        var from = after;
        Optional<Object> next = database.write(session -> sealed.anew(session, box, from, AT_ONCE));
        after = next.orElse(null);
      } while (after != null);
    }
  }
}
