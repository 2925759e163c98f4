package ebb.service.changes;

import ebb.core.change.ChangeSet;
import ebb.service.turns.OneAtATime;
import ebb.store.Database;
import ebb.store.imports.Imports;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;

/**
 * Has a release wait while a file of its source is read, or another set of that source is released:
 * each goes by what the other writes.
 */
@Component
final class ReleaseTurns {
  private final Database database;
  private final Imports imports;
  private final OneAtATime oneAtATime;
  private final Map<Long, String> waiting = new ConcurrentHashMap<>();

  ReleaseTurns(Database database, Imports imports, OneAtATime oneAtATime) {
    this.database = database;
    this.imports = imports;
    this.oneAtATime = oneAtATime;
  }

  <T> T alone(ChangeSet set, Supplier<T> release) {
    return oneAtATime.alone(
        name(set),
        "the release of change set " + set.id(),
        other -> {
          if (other == null) {
            waiting.remove(set.id());
          } else {
            waiting.put(set.id(), other);
          }
        },
        release::get);
  }

  /** What a release waits for in this process; empty if for nothing. */
  Optional<String> waitsFor(long set) {
    return Optional.ofNullable(waiting.get(set));
  }

  private String name(ChangeSet set) {
    return database
        .read(session -> imports.sourceOfSet(session, set.id()))
        .or(
            () ->
                Optional.ofNullable(set.takesBack())
                    .flatMap(back -> database.read(session -> imports.sourceOfSet(session, back))))
        .map(OneAtATime::ofSource)
        .orElse("change set " + set.id());
  }
}
