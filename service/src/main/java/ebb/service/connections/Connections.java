package ebb.service.connections;

import ebb.connectors.carry.Carrying;
import ebb.connectors.carry.Logins;
import ebb.connectors.companion.CompanionClient;
import ebb.connectors.companion.Joined;
import ebb.connectors.dav.DavServer;
import ebb.connectors.dav.DavSettings;
import ebb.connectors.http.JsonHttp;
import ebb.connectors.http.Lines;
import ebb.connectors.ldap.LdapConnector;
import ebb.connectors.mail.Mail;
import ebb.connectors.mail.MailSettings;
import ebb.connectors.scim.ScimConnector;
import ebb.connectors.seats.Seated;
import ebb.core.application.Application;
import ebb.core.application.Capabilities;
import ebb.core.application.Connector;
import ebb.core.application.Inspection;
import ebb.core.application.Secrets;
import ebb.core.application.Unreachable;
import ebb.core.execution.Worker;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.applications.Applications;
import jakarta.annotation.PreDestroy;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** One connector per application, opened when it is first needed and kept until it is edited. */
@Component
public final class Connections {
  private record Open(long version, Connector connector, Worker.Bounds bounds) {
    Open(Application application, Connector connector) {
      this(application.version(), connector, Connections.bounds(application));
    }
  }

  /** The settings of an application were edited by this process. */
  public record Edited(String application) {}

  /** Nothing more goes to an application until it is let go on. */
  public record Paused(String application) {}

  private final Database database;
  private final Applications applications;
  private final SecretBox box;
  private final BusinessClock clock;
  private final ApplicationEventPublisher events;
  private final Map<String, Open> open = new ConcurrentHashMap<>();
  private final Map<String, Capabilities> known = new ConcurrentHashMap<>();

  Connections(
      Database database,
      Applications applications,
      SecretBox box,
      BusinessClock clock,
      ApplicationEventPublisher events) {
    this.clock = clock;
    this.events = events;
    this.database = database;
    this.applications = applications;
    this.box = box;
  }

  /**
   * @throws Refusal if there is no such application
   */
  public Connector to(String application) {
    return open(application).connector();
  }

  /** How many calls an application is given, at once and a second. */
  public Worker.Bounds bounds(String application) {
    return open(application).bounds();
  }

  /** What an application can do, as it last said. Calls nobody. */
  public Capabilities capabilities(String application) {
    return known.computeIfAbsent(
        application,
        name ->
            database
                .read(session -> applications.capabilities(session, name))
                .orElse(Capabilities.UNKNOWN));
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
      var inspection = to(application).inspect();
      found = inspection.capabilities();
      problem = firstAmiss(inspection);
    } catch (Unreachable e) {
      problem = e.problem();
    }
    keep(application, found, problem);
    return problem;
  }

  private static Problem firstAmiss(Inspection inspection) {
    return inspection.tried().stream()
        .map(Inspection.Tried::problem)
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  /**
   * Looks at an application, and writes nothing there.
   *
   * @throws Refusal if it does not answer
   */
  public Inspection inspect(String application) {
    try {
      return to(application).inspect();
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
  }

  /**
   * Looks at an application that is not connected yet, or would be connected otherwise.
   *
   * @param secrets null for those it has
   * @throws Refusal if it does not answer
   */
  public Inspection inspect(Application application, Secrets secrets) {
    var own = secrets == null ? secrets(application.name()) : secrets;
    try (var connector = open(application, own).connector()) {
      return connector.inspect();
    } catch (Unreachable e) {
      throw new Refusal(Refusal.Kind.UNAVAILABLE, e.problem());
    }
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

  /** Forgets a connection whose settings were edited, and tells whoever goes by them. */
  public void reopen(String application) {
    forget(application);
    events.publishEvent(new Edited(application));
  }

  /** Tells whoever sends anything there. */
  public void paused(String application) {
    events.publishEvent(new Paused(application));
  }

  /** Forgets the connections whose settings another process has edited. */
  public void follow(List<Application> applications) {
    for (var application : applications) {
      var kept = open.get(application.name());
      if (kept != null && kept.version() < application.version()) {
        forget(application.name());
      }
    }
  }

  private void forget(String application) {
    var old = open.remove(application);
    known.remove(application);
    if (old != null) {
      old.connector().close();
    }
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
          return open(application, secrets(name));
        });
  }

  private Secrets secrets(String name) {
    return database
        .read(session -> applications.secret(session, name))
        .map(box::open)
        .map(SecretTexts::read)
        .orElse(Secrets.NONE);
  }

  private static Open open(Application application, Secrets secrets) {
    var name = application.name();
    var settings = application.settings();
    var bounds = bounds(application);
    var connector =
        switch (application.kind()) {
          case "scim" -> ScimConnector.open(name, settings, secrets, bounds.callsAtOnce());
          case "ldap" -> LdapConnector.open(name, settings, secrets, bounds.callsAtOnce());
          default -> throw new IllegalStateException("No connector for " + application.kind());
        };
    var joined =
        settings.containsKey("companion")
            ? new Joined(
                connector,
                new CompanionClient(
                    new JsonHttp(Lines.companion(name, settings, secrets, bounds.callsAtOnce()))))
            : connector;
    var carrying = withServersBeside(application, secrets, joined);
    return new Open(
        application,
        settings.containsKey("companion") || settings.containsKey(Seated.SETTING)
            ? Seated.over(carrying, settings)
            : carrying);
  }

  /** With the servers that hold what its accounts own, if there are any. */
  private static Connector withServersBeside(
      Application application, Secrets secrets, Connector accounts) {
    var settings = new TreeMap<>(application.settings());
    if (application.kind().equals("ldap")) {
      settings.putIfAbsent("network", LdapConnector.USUAL_NETWORK);
    }
    var mail =
        new Mail(
            application.name(), settings, secrets, logins(accounts, settings, MailSettings.LOGIN));
    var files =
        DavServer.files(
            application.name(), settings, secrets, logins(accounts, settings, DavSettings.LOGIN));
    var calendars =
        DavServer.calendars(
            application.name(),
            settings,
            secrets,
            logins(accounts, settings, DavSettings.CALENDARS_LOGIN),
            Logins.by(
                accounts,
                settings.getOrDefault(DavSettings.CALENDARS_ADDRESS, DavSettings.USUAL_ADDRESS)));
    var servers = Stream.of(files, calendars).flatMap(Optional::stream).toList();
    return mail.isThere() || !servers.isEmpty()
        ? new Carrying(
            accounts,
            Stream.concat(mail.carrier().stream(), servers.stream().map(DavServer::carrier))
                .toList(),
            mail.replies(),
            Stream.concat(
                    mail.looks().stream(),
                    servers.stream().map(server -> (Supplier<Inspection.Tried>) server::look))
                .toList(),
            servers.stream().map(server -> (Runnable) server::close).toList())
        : accounts;
  }

  private static Logins logins(Connector accounts, Map<String, String> settings, String setting) {
    return Logins.by(accounts, settings.getOrDefault(setting, "userName"));
  }

  private static Worker.Bounds bounds(Application application) {
    var settings = application.settings();
    var usual =
        application.kind().equals("ldap")
            ? LdapConnector.CALLS_AT_ONCE
            : ScimConnector.CALLS_AT_ONCE;
    return new Worker.Bounds(
        settings.containsKey("callsAtOnce") ? Integer.parseInt(settings.get("callsAtOnce")) : usual,
        Double.parseDouble(settings.getOrDefault("callsPerSecond", "0")));
  }

  @PreDestroy
  void close() {
    open.values().forEach(one -> one.connector().close());
  }
}
