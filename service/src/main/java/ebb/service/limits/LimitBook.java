package ebb.service.limits;

import ebb.core.guard.Limit;
import ebb.core.guard.Limits;
import ebb.store.settings.Settings;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** The limits in force, as they were set. */
@Component
public final class LimitBook {
  private static final String PREFIX = "limit:";

  private final Settings settings;

  LimitBook(Settings settings) {
    this.settings = settings;
  }

  public Limits limits(StatelessSession session) {
    return new Limits(
        settings.under(session, PREFIX).entrySet().stream()
            .collect(
                Collectors.toMap(
                    entry -> entry.getKey(), entry -> Double.valueOf(entry.getValue()))));
  }

  /**
   * @param of null for all sources and applications
   * @param value null for the usual one
   */
  void put(StatelessSession session, Limit limit, String of, Double value) {
    var name = PREFIX + Limits.key(limit, of);
    if (value == null) {
      settings.drop(session, name);
    } else {
      settings.put(session, name, value.toString());
    }
  }
}
