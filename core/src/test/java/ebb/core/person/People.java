package ebb.core.person;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Makes people for tests, each attribute asserted by one source. */
public final class People {
  public static final Instant LONG_AGO = Instant.parse("2020-01-01T00:00:00Z");

  public static Person person(long id, Map<String, String> values) {
    return Person.resolve(new PersonId(id), List.of(asserted(id, "hr", values)), _ -> 0);
  }

  public static Assertions asserted(long id, String source, Map<String, String> values) {
    return Assertions.none(new PersonId(id), source).with(new TreeMap<>(values), LONG_AGO, 1);
  }

  private People() {}
}
