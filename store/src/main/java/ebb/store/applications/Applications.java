package ebb.store.applications;

import ebb.core.application.Application;
import ebb.core.application.Application.Pause;
import ebb.core.application.Capabilities;
import ebb.core.problem.Problem;
import ebb.store.Json;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Connected applications. */
public final class Applications {
  public static final List<Class<?>> ENTITIES =
      List.of(
          ApplicationEntity.class,
          AccountEntity.class,
          SyncRunEntity.class,
          DriftEntity.class,
          AccountGroupEntity.class,
          GroupMarkEntity.class,
          WayLookEntity.class,
          WayInEntity.class,
          AccountUseEntity.class,
          StillNeededEntity.class);

  public Optional<Application> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(ApplicationEntity.class, name))
        .map(Applications::application);
  }

  public List<Application> list(StatelessSession session) {
    return session
        .createSelectionQuery("from ApplicationEntity order by name", ApplicationEntity.class)
        .stream()
        .map(Applications::application)
        .toList();
  }

  /** The secret as it is kept, encrypted; empty if the application has none. */
  public Optional<String> secret(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(ApplicationEntity.class, name)).map(row -> row.secret);
  }

  /** What the application said it can do when it was last asked; empty if it never answered. */
  public Optional<Capabilities> capabilities(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(ApplicationEntity.class, name))
        .map(row -> Json.read(row.capabilities, Capabilities.class));
  }

  public void keepCapabilities(StatelessSession session, String name, Capabilities capabilities) {
    session
        .createMutationQuery(
            "update ApplicationEntity set capabilities = :capabilities where name = :name")
        .setParameter("capabilities", Json.write(capabilities))
        .setParameter("name", name)
        .executeUpdate();
  }

  /**
   * Keeps an application under the next version. All of it will be read anew.
   *
   * @param secret encrypted; null keeps the one there is
   */
  public void put(StatelessSession session, Application application, String secret) {
    var row =
        Optional.ofNullable(session.get(ApplicationEntity.class, application.name()))
            .orElseGet(ApplicationEntity::new);
    row.name = application.name();
    row.kind = application.kind();
    row.settings = Json.write(application.settings());
    row.secret = secret == null ? row.secret : secret;
    row.version++;
    session.upsert(row);
    session
        .createNativeMutationQuery("update application set sync_mark = null where name = :name")
        .setParameter("name", application.name())
        .executeUpdate();
  }

  /**
   * Notes how an application was found.
   *
   * @param problem null if it was well
   */
  public void checked(StatelessSession session, String name, Problem problem, Instant at) {
    session
        .createMutationQuery(
            "update ApplicationEntity set problem = :problem, checkedAt = :at where name = :name")
        .setParameter("problem", Json.write(problem))
        .setParameter("at", at)
        .setParameter("name", name)
        .executeUpdate();
  }

  /**
   * Pauses the work on an application, or lets it go on.
   *
   * @param pause null to let it go on
   */
  public void pause(StatelessSession session, String name, Pause pause) {
    session
        .createMutationQuery(
            "update ApplicationEntity set pausedBy = :by, pausedWhy = :why, pausedAt = :at"
                + " where name = :name")
        .setParameter("by", pause == null ? null : pause.by())
        .setParameter("why", pause == null ? null : pause.why())
        .setParameter("at", pause == null ? null : pause.at())
        .setParameter("name", name)
        .executeUpdate();
  }

  public void synced(StatelessSession session, String name, Instant at) {
    checked(session, name, null, at);
    session
        .createMutationQuery("update ApplicationEntity set syncedAt = :at where name = :name")
        .setParameter("at", at)
        .setParameter("name", name)
        .executeUpdate();
  }

  /** Notes that findings in an application may be others than they were. */
  public void looked(StatelessSession session, String name) {
    session
        .createNativeMutationQuery("update application set looks = looks + 1 where name = :name")
        .setParameter("name", name)
        .executeUpdate();
  }

  /** How often that was noted, of all applications. */
  public long looks(StatelessSession session) {
    return session
        .createNativeQuery("select coalesce(sum(looks), 0) from application", Long.class)
        .getSingleResult();
  }

  private static Application application(ApplicationEntity row) {
    return new Application(
        row.name,
        row.kind,
        Json.texts(row.settings),
        Json.read(row.problem, Problem.class),
        row.checkedAt,
        row.syncedAt,
        row.pausedAt == null ? null : new Pause(row.pausedBy, row.pausedWhy, row.pausedAt),
        row.version);
  }
}
