package ebb.store.settings;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Single values that outlive a restart. */
public final class Settings {
  public static final List<Class<?>> ENTITIES = List.of(SettingEntity.class);

  public Optional<String> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(SettingEntity.class, name)).map(row -> row.value);
  }

  /** Values by the rest of their names. */
  public Map<String, String> under(StatelessSession session, String prefix) {
    return session
        .createSelectionQuery("from SettingEntity where name like :prefix", SettingEntity.class)
        .setParameter("prefix", prefix + "%")
        .stream()
        .collect(Collectors.toMap(row -> row.name.substring(prefix.length()), row -> row.value));
  }

  /** Nothing happens if there is none. */
  public void drop(StatelessSession session, String name) {
    session
        .createMutationQuery("delete SettingEntity where name = :name")
        .setParameter("name", name)
        .executeUpdate();
  }

  public void put(StatelessSession session, String name, String value) {
    var row = new SettingEntity();
    row.name = name;
    row.value = value;
    session.upsert(row);
  }
}
