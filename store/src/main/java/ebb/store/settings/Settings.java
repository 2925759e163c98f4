package ebb.store.settings;

import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;

/** Single values that outlive a restart. */
public final class Settings {
  public static final List<Class<?>> ENTITIES = List.of(SettingEntity.class);

  public Optional<String> get(StatelessSession session, String name) {
    return Optional.ofNullable(session.get(SettingEntity.class, name)).map(row -> row.value);
  }

  public void put(StatelessSession session, String name, String value) {
    var row = new SettingEntity();
    row.name = name;
    row.value = value;
    session.upsert(row);
  }
}
