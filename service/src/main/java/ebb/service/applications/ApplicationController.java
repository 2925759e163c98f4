package ebb.service.applications;

import ebb.api.AccountView;
import ebb.api.ApplicationEdit;
import ebb.api.ApplicationView;
import ebb.api.InspectionView;
import ebb.api.Listing;
import ebb.api.PauseRequest;
import ebb.core.application.Application;
import ebb.core.application.Application.Pause;
import ebb.core.change.Finding;
import ebb.core.operator.Act;
import ebb.core.person.PersonId;
import ebb.core.problem.Refusal;
import ebb.service.connections.Connections;
import ebb.service.connections.SecretTexts;
import ebb.service.connections.SettingsCheck;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.service.web.Allowed;
import ebb.service.web.Callers;
import ebb.service.web.Pauses;
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
  private final Inspections inspections;
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
      Inspections inspections,
      SecretBox secrets,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.applications = applications;
    this.accounts = accounts;
    this.people = people;
    this.changeSets = changeSets;
    this.connections = connections;
    this.inspections = inspections;
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
    var application = checked(name, edit);
    database.writeAll(
        session -> {
          long version = applications.get(session, name).map(Application::version).orElse(0L);
          Requests.expect(name, Requests.version(ifMatch), version);
          applications.put(session, application, secrets(session, name, edit));
          journal.write(
              session,
              clock.instant(),
              Deed.of(principal.getName(), (version == 0 ? "connected " : "edited ") + name));
        });
    connections.reopen(name);
    connections.check(name);
    return show(name);
  }

  /**
   * Looks at an application before it is connected, or connected otherwise. Nothing is kept, and
   * nothing written there. Secrets that are left out are those it has.
   */
  @Allowed(Act.EDIT_SETTINGS)
  @PostMapping("/{name}/try")
  InspectionView tryOut(@PathVariable String name, @RequestBody ApplicationEdit edit) {
    var application = checked(name, edit);
    var text = database.read(session -> openSecrets(session, name));
    return inspections.view(
        connections.inspect(application, SecretTexts.read(SecretTexts.with(text, sent(edit)))));
  }

  /** Looks at an application as it is connected. Nothing is written there. */
  @Allowed(Act.SEE_SETTINGS)
  @PostMapping("/{name}/inspect")
  InspectionView inspect(@PathVariable String name) {
    database.read(session -> get(session, name));
    return inspections.view(connections.inspect(name));
  }

  /** Sends nothing there until it is let go on. What is under way is finished. */
  @Allowed(Act.STOP_WORK)
  @PostMapping("/{name}/pause")
  ApplicationView pause(
      @PathVariable String name, @RequestBody PauseRequest request, Principal principal) {
    var why = Requests.required(request.why(), "why");
    return setPause(name, new Pause(principal.getName(), why, clock.instant()), principal);
  }

  /** Lets the work on an application go on. */
  @Allowed(Act.STOP_WORK)
  @PostMapping("/{name}/go-on")
  ApplicationView goOn(@PathVariable String name, Principal principal) {
    return setPause(name, null, principal);
  }

  private ApplicationView setPause(String name, Pause pause, Principal principal) {
    database.writeAll(
        session -> {
          get(session, name);
          applications.pause(session, name, pause);
          var deed =
              Deed.of(principal.getName(), (pause == null ? "let go on " : "paused ") + name);
          journal.write(session, clock.instant(), pause == null ? deed : deed.because(pause.why()));
        });
    if (pause != null) {
      connections.paused(name);
    }
    return database.read(session -> view(session, get(session, name)));
  }

  private static Application checked(String name, ApplicationEdit edit) {
    var settings = edit.settings() == null ? Map.<String, String>of() : edit.settings();
    var problems =
        SettingsCheck.problems(Requests.required(edit.kind(), "kind"), settings, edit.secrets());
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
    return Application.connected(name, edit.kind(), settings);
  }

  private String secrets(StatelessSession session, String name, ApplicationEdit edit) {
    return edit.secrets() == null
        ? null
        : secrets.seal(SecretTexts.with(openSecrets(session, name), sent(edit)));
  }

  private static Map<String, String> sent(ApplicationEdit edit) {
    return edit.secrets() == null ? Map.of() : edit.secrets();
  }

  /** Null if it has none. */
  private String openSecrets(StatelessSession session, String name) {
    return applications.secret(session, name).map(secrets::open).orElse(null);
  }

  /**
   * Accounts in the order of their numbers.
   *
   * @param finding only those of which this is found; all if it is not given
   */
  @Allowed(Act.SEE)
  @GetMapping("/{name}/accounts")
  Listing<AccountView> accounts(
      @PathVariable String name,
      @RequestParam(required = false) String finding,
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
                  finding == null ? null : Requests.word(Finding.class, finding, "finding"),
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
          return Requests.listing(page, account -> view(account, names));
        });
  }

  private static AccountView view(Account account, Map<PersonId, String> names) {
    return AccountViews.view(
        account, account.person() == null ? null : names.get(account.person()));
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
        SecretTexts.names(openSecrets(session, application.name())),
        byLevel,
        Pauses.view(application.pause()),
        Problems.view(application.problem()),
        application.checkedAt(),
        application.syncedAt(),
        changeSets.shownDrift(session, application.name(), 1).stream().findFirst().orElse(null));
  }
}
