package ebb.store;

import ebb.store.applications.Applications;
import ebb.store.changes.ChangeSets;
import ebb.store.departures.Departures;
import ebb.store.feeds.Feeds;
import ebb.store.imports.Imports;
import ebb.store.journal.Journal;
import ebb.store.notices.Notices;
import ebb.store.operators.Operators;
import ebb.store.people.People;
import ebb.store.push.Resources;
import ebb.store.rules.Rules;
import ebb.store.settings.Settings;
import java.sql.SQLException;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.h2.jdbcx.JdbcConnectionPool;

/** An empty database with the real schema. */
public final class TestDatabase {
  private static final Class<?>[] ENTITIES =
      Stream.of(
              People.ENTITIES,
              Imports.ENTITIES,
              Feeds.ENTITIES,
              Resources.ENTITIES,
              Applications.ENTITIES,
              Rules.ENTITIES,
              ChangeSets.ENTITIES,
              Departures.ENTITIES,
              Journal.ENTITIES,
              Notices.ENTITIES,
              Operators.ENTITIES,
              Settings.ENTITIES)
          .flatMap(List::stream)
          .toArray(Class<?>[]::new);

  /** What the migrations make: they are run once, and each test begins with a copy. */
  private static final class Schema {
    static final String SCRIPT = migrated();

    private static String migrated() {
      var template = JdbcConnectionPool.create("jdbc:h2:mem:template;DB_CLOSE_DELAY=-1", "ebb", "");
      Flyway.configure().dataSource(template).load().migrate();
      try (var connection = template.getConnection();
          var rows = connection.createStatement().executeQuery("SCRIPT")) {
        var script = new StringBuilder();
        while (rows.next()) {
          script.append(rows.getString(1)).append('\n');
        }
        return script.toString();
      } catch (SQLException e) {
        throw new IllegalStateException("The schema could not be read", e);
      }
    }
  }

  public static Database inMemory() {
    var name = "jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1";
    var dataSource = JdbcConnectionPool.create(name, "ebb", "");
    try (var connection = dataSource.getConnection()) {
      connection.createStatement().execute(Schema.SCRIPT);
    } catch (SQLException e) {
      throw new IllegalStateException("The schema could not be copied", e);
    }
    return Database.open(dataSource, ENTITIES);
  }

  public static Database open(String url) {
    DataSource dataSource = JdbcConnectionPool.create(url, "ebb", "");
    Flyway.configure().dataSource(dataSource).load().migrate();
    return Database.open(dataSource, ENTITIES);
  }

  private TestDatabase() {}
}
