package ebb.store.people;

import ebb.core.person.Assertions;
import ebb.core.person.PersonId;
import ebb.store.Database;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import org.hibernate.StatelessSession;

/**
 * What is said of people, for work that asks for it twice within moments: that of those who were
 * asked for first is held. For several threads.
 */
public final class AssertionCache {
  /** So many people are held, in some twenty megabytes. */
  public static final int MOST = 10_000;

  private static final int AT_ONCE = 500;

  private final People people;
  private final Map<PersonId, List<Assertions>> held = new ConcurrentHashMap<>();

  public AssertionCache(People people) {
    this.people = people;
  }

  /** As {@link People#assertions}. */
  public Map<PersonId, List<Assertions>> of(StatelessSession session, Collection<PersonId> ids) {
    var all = new HashMap<PersonId, List<Assertions>>();
    var others = new HashSet<PersonId>();
    for (var id : ids) {
      var known = held.get(id);
      if (known == null) {
        others.add(id);
      } else {
        all.put(id, known);
      }
    }
    var read = people.assertions(session, others);
    if (held.size() < MOST) {
      held.putAll(read);
    }
    all.putAll(read);
    return all;
  }

  /** Reading that goes on until all is read or it is closed. */
  public static final class Ahead implements AutoCloseable {
    private volatile boolean isWanted = true;
    private CompletableFuture<Void> going;

    /**
     * Waits for the part at hand.
     *
     * @throws java.util.concurrent.CompletionException if something could not be read
     */
    @Override
    public void close() {
      isWanted = false;
      going.join();
    }
  }

  /**
   * Begins to read on another thread.
   *
   * @param ids in the order in which they will be asked for
   */
  public Ahead readAhead(Database database, List<PersonId> ids) {
    var ahead = new Ahead();
    ahead.going =
        CompletableFuture.runAsync(
            () -> {
              for (int from = 0; from < ids.size() && ahead.isWanted; from += AT_ONCE) {
                var part = ids.subList(from, Math.min(from + AT_ONCE, ids.size()));
                database.read(session -> of(session, part));
              }
            });
    return ahead;
  }
}
