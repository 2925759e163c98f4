package ebb.store.applications;

import ebb.core.dormancy.StillNeeded;
import ebb.core.person.PersonId;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/** Of each account, whether it is still needed, as it was asked and answered last. */
public final class StillNeededs {
  /** In the place of what was asked before. */
  public void put(StatelessSession session, StillNeeded one) {
    session.upsert(StillNeededEntity.of(one));
  }

  public Map<Long, StillNeeded> of(StatelessSession session, Collection<Long> accounts) {
    return accounts.isEmpty()
        ? Map.of()
        : session.getMultiple(StillNeededEntity.class, List.copyOf(accounts)).stream()
            .filter(Objects::nonNull)
            .map(StillNeededEntity::toStillNeeded)
            .collect(Collectors.toMap(StillNeeded::account, one -> one));
  }

  /** What a person was asked and has not answered, whatever its day. */
  public List<StillNeeded> open(StatelessSession session, PersonId person) {
    return session
        .createSelectionQuery(
            "from StillNeededEntity where personId = :person and answer = 'OPEN' order by accountId",
            StillNeededEntity.class)
        .setParameter("person", person.value())
        .stream()
        .map(StillNeededEntity::toStillNeeded)
        .toList();
  }

  /** What nobody needs: so said, or not answered by its day. */
  public List<StillNeeded> notNeeded(StatelessSession session, LocalDate today, int limit) {
    return session
        .createSelectionQuery(
            "from StillNeededEntity where answer = 'NOT_NEEDED'"
                + " or (answer = 'OPEN' and until < :today) order by accountId",
            StillNeededEntity.class)
        .setParameter("today", today)
        .setMaxResults(limit)
        .stream()
        .map(StillNeededEntity::toStillNeeded)
        .toList();
  }
}
