package ebb.service.people;

import ebb.api.Listing;
import ebb.api.ReferringView;
import ebb.core.application.Instruction;
import ebb.core.application.References;
import ebb.core.application.References.Reference;
import ebb.core.application.Unreachable;
import ebb.core.name.LoginScheme;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.reach.Reaches;
import ebb.service.web.Allowed;
import ebb.service.web.Problems;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What refers to somebody in each application, and whether it follows a new name. */
@RestController
@RequestMapping("/api/v1/people/{id}/references")
class ReferenceController {
  private static final int SHOWN = 20;

  private final Database database;
  private final Connections connections;
  private final Accounts accounts;
  private final HandEdits edits;
  private final Reaches reaches;

  ReferenceController(
      Database database,
      Connections connections,
      Accounts accounts,
      HandEdits edits,
      Reaches reaches) {
    this.database = database;
    this.connections = connections;
    this.accounts = accounts;
    this.edits = edits;
    this.reaches = reaches;
  }

  /** Asked of each application in which there is an account; nothing is kept. */
  @Allowed(Act.SEE)
  @GetMapping
  Listing<ReferringView> references(@PathVariable long id, Principal principal) {
    reaches.require(principal, id);
    var person = edits.get(new PersonId(id)).person().id();
    var held = database.read(session -> accounts.of(session, List.of(person)));
    return Listing.whole(
        held.getOrDefault(person, List.of()).stream()
            .filter(account -> account.level().exists())
            .map(this::referring)
            .toList());
  }

  private ReferringView referring(Account account) {
    var application = account.application();
    var references = connections.to(application).references();
    if (references.isEmpty()) {
      return new ReferringView(application, null, List.of(), false, null);
    }
    try {
      var found = references.get().to(account.observed().id());
      return new ReferringView(
          application,
          found.size(),
          found.stream().limit(SHOWN).map(Reference::what).toList(),
          isCarried(references.get(), account),
          null);
    } catch (Unreachable e) {
      return new ReferringView(application, null, List.of(), false, Problems.view(e.problem()));
    }
  }

  private static boolean isCarried(References references, Account account) {
    var rename =
        new Instruction.Update(
            account.observed().id(), new TreeMap<>(Map.of(LoginScheme.ATTRIBUTE, List.of())));
    return references.followOn(rename);
  }
}
