package ebb.service.applications;

import ebb.api.AccountView;
import ebb.api.ApplicationEdit;
import ebb.api.ApplicationView;
import ebb.api.Listing;
import ebb.api.SyncView;
import ebb.core.application.Application;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Problems;
import ebb.service.web.Requests;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Applications;
import ebb.store.changes.ChangeSets;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import ebb.store.people.People;
import java.security.Principal;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/v1/applications")
class ApplicationController {
  private final Database database;
  private final Applications applications;
  private final Accounts accounts;
  private final People people;
  private final ChangeSets changeSets;
  private final Connections connections;
  private final Syncs syncs;
  private final SecretBox secrets;
  private final Journal journal;
  private final BusinessClock clock;

  ApplicationController(
      Database database,
      Applications applications,
      Accounts accounts,
      People people,
      ChangeSets changeSets,
      Connections connections,
      Syncs syncs,
      SecretBox secrets,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.people = people;
    this.changeSets = changeSets;
    this.connections = connections;
    this.syncs = syncs;
    this.secrets = secrets;
    this.journal = journal;
    this.clock = clock;
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping
  Listing<ApplicationView> list() {
    return database.read(
        session ->
            Listing.whole(
                applications.list(session).stream().map(one -> view(session, one)).toList()));
  }

  @Allowed(Act.SEE_SETTINGS)
  @GetMapping("/{name}")
  ResponseEntity<ApplicationView> show(@PathVariable String name) {
    var view = database.read(session -> view(session, get(session, name)));
    return Requests.tagged(view.version(), view);
  }

  /** Connects an application, or changes how. It is tried at once; nothing is written there. */
  @Allowed(Act.EDIT_SETTINGS)
  @PutMapping("/{name}")
  ResponseEntity<ApplicationView> put(
      @PathVariable String name,
      @RequestHeader(name = "If-Match", required = false) String ifMatch,
      @RequestBody ApplicationEdit edit,
      Principal principal) {
    var settings = edit.settings() == null ? Map.<String, String>of() : edit.settings();
    var problems = Connections.problems(Requests.required(edit.kind(), "kind"), settings);
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    database.writeAll(
        session -> {
          long version = applications.get(session, name).map(Application::version).orElse(0L);
          Requests.expect(name, Requests.version(ifMatch), version);
          applications.put(
              session,
              new Application(name, edit.kind(), settings, null, null, null, version),
              edit.secret() == null ? null : secrets.seal(edit.secret()));
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), (version == 0 ? "connected " : "edited ") + name));
        });
    connections.reopen(name);
    connections.check(name);
    return show(name);
  }

  /** Reads all accounts, and proposes to put right what drifted. Writes nothing there. */
  @Allowed(Act.IMPORT)
  @PostMapping("/{name}/sync")
  SyncView sync(@PathVariable String name, Principal principal) {
    database.read(session -> get(session, name));
    return syncs.sync(name, principal.getName());
  }

  /**
   * Accounts in the order of their numbers.
   *
   * @param unmatched only those that are nobody's
   */
  @Allowed(Act.SEE)
  @GetMapping("/{name}/accounts")
  Listing<AccountView> accounts(
      @PathVariable String name,
      @RequestParam(defaultValue = "false") boolean unmatched,
      @RequestParam(required = false) String cursor,
      @RequestParam(required = false) Integer limit,
      Principal principal) {
    return database.read(
        session -> {
          get(session, name);
          var page =
              accounts.list(
                  session,
                  name,
                  unmatched,
                  Callers.of(principal).reach(),
                  Requests.cursor(cursor),
                  Requests.limit(limit));
          var owners =
              page.items().stream()
                  .map(Account::person)
                  .filter(Objects::nonNull)
                  .collect(Collectors.toSet());
          Map<PersonId, String> names =
              owners.isEmpty() ? Map.of() : people.displayNames(session, owners);
          return Requests.listing(
              page, account -> AccountViews.view(account, names.get(account.person())));
        });
  }

  private Application get(StatelessSession session, String name) {
    return applications
        .get(session, name)
        .orElseThrow(() -> Refusal.notFound("application", name, "See: ebb applications list"));
  }

  private ApplicationView view(StatelessSession session, Application application) {
    var byLevel = new TreeMap<String, Long>();
    accounts
        .counts(session, application.name())
        .forEach((level, count) -> byLevel.put(level.word(), count));
    return new ApplicationView(
        application.name(),
        application.version(),
        application.kind(),
        application.settings(),
        byLevel,
        Problems.view(application.problem()),
        application.checkedAt(),
        application.syncedAt(),
        changeSets.shownDrift(session, application.name()).orElse(null));
  }
}
