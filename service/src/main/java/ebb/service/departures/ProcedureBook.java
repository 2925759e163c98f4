package ebb.service.departures;

import ebb.core.departure.Procedure;
import ebb.core.person.Attributes;
import ebb.core.person.Person;
import ebb.store.Json;
import ebb.store.settings.Settings;
import java.util.Locale;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** The procedures by which departures go, by kind of people. */
@Component
public final class ProcedureBook {
  /** Everybody of whose kind nothing is said. */
  static final String OTHERS = "";

  private static final String PREFIX = "procedure:";

  private final Settings settings;

  ProcedureBook(Settings settings) {
    this.settings = settings;
  }

  /** The one for a person's kind, or for all others. */
  public Procedure of(StatelessSession session, Person person) {
    var all = all(session);
    var kind = person.get(Attributes.USER_TYPE).orElse(OTHERS).toLowerCase(Locale.ROOT);
    return all.getOrDefault(kind, all.get(OTHERS));
  }

  /**
   * Days after which a person is forgotten; null for never. Of whom nothing is said any more nobody
   * knows the kind either, and nothing is to be lost by another's rule.
   */
  Integer forgetDays(StatelessSession session, Person person) {
    return person.attributes().isEmpty()
        ? Procedure.longestRemembered(all(session).values())
        : of(session, person).forgetDays();
  }

  /** By kind; the first is that of all others. */
  SortedMap<String, Procedure> all(StatelessSession session) {
    var all = new TreeMap<>(Map.of(OTHERS, Procedure.STANDARD));
    settings
        .under(session, PREFIX)
        .forEach((kind, text) -> all.put(kind, Json.read(text, Procedure.class)));
    return all;
  }

  /**
   * @param procedure null for that of all others, or for the standard one
   */
  void put(StatelessSession session, String kind, Procedure procedure) {
    var name = PREFIX + kind.toLowerCase(Locale.ROOT);
    if (procedure == null) {
      settings.drop(session, name);
    } else {
      settings.put(session, name, Json.write(procedure));
    }
  }
}
