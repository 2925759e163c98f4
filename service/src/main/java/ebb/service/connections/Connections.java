package ebb.service.connections;

import ebb.connectors.ldap.LdapConnector;
import ebb.connectors.scim.ScimConnector;
import ebb.core.application.Application;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Secret;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.applications.Applications;
import jakarta.annotation.PreDestroy;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** One connector per application, opened when it is first needed and kept until it is edited. */
@Component
public final class Connections {
  /** What is assumed of an application that has never answered: its first sync corrects it. */
  private static final Capabilities UNKNOWN =
      new Capabilities(Set.of(), Map.of(), true, false, false, false);

  private static final Map<String, List<String>> NEEDED =
      Map.of("scim", List.of("address"), "ldap", List.of("host", "port", "bindDn", "people"));

  private record Open(Connector connector, int callsAtOnce) {}

  private final Database database;
  private final Applications applications;
  private final SecretBox secrets;
  private final BusinessClock clock;
  private final Map<String, Open> open = new ConcurrentHashMap<>();
  private final Map<String, Capabilities> known = new ConcurrentHashMap<>();

  Connections(
      Database database, Applications applications, SecretBox secrets, BusinessClock clock) {
    this.clock = clock;
    this.database = database;
    this.applications = applications;
    this.secrets = secrets;
  }

  /**
   * @throws Refusal if there is no such application
   */
  public Connector to(String application) {
    return open(application).connector();
  }

  /** How many calls at once an application is given. */
  public int callsAtOnce(String application) {
    return open(application).callsAtOnce();
  }

  /** What an application can do, as it last said. Calls nobody. */
  public Capabilities capabilities(String application) {
    return known.computeIfAbsent(
        application,
        name -> database.read(session -> applications.capabilities(session, name)).orElse(UNKNOWN));
  }

  /**
   * Tries an application and keeps what it can do.
   *
   * @return null if it is well, else what is wrong
   */
  public Problem check(String application) {
    Problem problem = null;
    Capabilities found = null;
    try {
      found = to(application).capabilities();
    } catch (Unreachable e) {
      problem = e.problem();
    }
    keep(application, found, problem);
    return problem;
  }

  private void keep(String application, Capabilities found, Problem problem) {
    database.writeAll(
        session -> {
          applications.checked(session, application, problem, clock.instant());
          if (found != null) {
            applications.keepCapabilities(session, application, found);
          }
        });
    if (found != null) {
      known.put(application, found);
    }
  }

  /** Forgets a connection whose settings were edited. */
  public void reopen(String application) {
    var old = open.remove(application);
    known.remove(application);
    if (old != null) {
      old.connector().close();
    }
  }

  /** All problems of an application's settings; empty if they can be used. */
  public static List<Problem> problems(String kind, Map<String, String> settings) {
    var problems = new ArrayList<Problem>();
    if (!NEEDED.containsKey(kind)) {
      problems.add(
          new Problem(
              "connector-unknown",
              "There is no connector of kind %s.".formatted(kind),
              "Ebb speaks scim and ldap so far.",
              "Use one of those.",
              Where.field("kind")));
      return problems;
    }
    for (var name : NEEDED.get(kind)) {
      if (settings.getOrDefault(name, "").isBlank()) {
        problems.add(
            new Problem(
                "setting-missing",
                "The setting %s is missing.".formatted(name),
                "The %s connector cannot connect without it.".formatted(kind),
                "Add it.",
                Where.field(name)));
      }
    }
    if (settings.containsKey("port") && !settings.get("port").matches("\\d{1,5}")) {
      problems.add(
          new Problem(
              "setting-invalid",
              "The port %s is no number.".formatted(settings.get("port")),
              "Connecting would fail.",
              "Correct it.",
              Where.field("port")));
    }
    return problems;
  }

  private Open open(String name) {
    return open.computeIfAbsent(
        name,
        _ -> {
          var application =
              database
                  .read(session -> applications.get(session, name))
                  .orElseThrow(
                      () -> Refusal.notFound("application", name, "See: ebb applications list"));
          return open(application, secret(name));
        });
  }

  private Secret secret(String name) {
    return new Secret(
        database.read(session -> applications.secret(session, name)).map(secrets::open).orElse(""));
  }

  private static Open open(Application application, Secret secret) {
    var name = application.name();
    var settings = application.settings();
    return switch (application.kind()) {
      case "scim" ->
          new Open(ScimConnector.open(name, settings, secret), ScimConnector.CALLS_AT_ONCE);
      case "ldap" ->
          new Open(LdapConnector.open(name, settings, secret), LdapConnector.CALLS_AT_ONCE);
      default -> throw new IllegalStateException("No connector for " + application.kind());
    };
  }

  @PreDestroy
  void close() {
    open.values().forEach(one -> one.connector().close());
  }
}
