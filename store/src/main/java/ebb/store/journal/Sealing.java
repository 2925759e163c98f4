package ebb.store.journal;

import ebb.core.journal.Chain;
import ebb.core.journal.Entry;
import ebb.core.person.PersonId;
import ebb.store.journal.BlockEntity.Link;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/**
 * Puts entries into the chain after they were committed, many in one block, so that the chain is no
 * lock upon whoever writes. What it knows it has read from the chain itself: another process may
 * seal, too. For one thread.
 */
public final class Sealing {
  private static final int BLOCKS_AT_ONCE = 20;

  /** Some past entries are looked at once more, whatever was thought of them. */
  private static final Duration BEGIN_ANEW = Duration.ofHours(1);

  private static final String OPEN =
      "select id, at, actor, act, person_id, reason, commitment from journal_entry"
          + " where id > ? and id < ? order by id limit ?";

  private static final String LATER = "select place from journal_block where place > ? limit 1";

  /** Null until the chain was read. */
  private Settled settled;

  private long place;
  private String seal;

  /** Where reading the chain began, or begins; null for where its last block says. */
  private Long from;

  /** How far all was settled when reading last began anew. */
  private Long settledBefore;

  private Instant begun;

  public Sealing(Instant now) {
    begun = now;
  }

  /** Links that are not kept yet. */
  public static final class Block {
    private final BlockEntity row;
    private final List<Long> ids;

    private Block(BlockEntity row, List<Long> ids) {
      this.row = row;
      this.ids = ids;
    }

    public int entries() {
      return row.entries;
    }
  }

  /**
   * The links of the next entries, in the order of their numbers. Nothing is kept by this: twice
   * the same if nothing was kept between.
   *
   * @return empty if all are sealed
   */
  public Optional<Block> next(StatelessSession session, int max) {
    if (settled == null) {
      begin(session);
    }
    if (session.doReturningWork(this::isBehind)) {
      learn(session);
    }
    var entries = session.doReturningWork(connection -> open(connection, max));
    return entries.isEmpty() ? Optional.empty() : Optional.of(block(entries));
  }

  /**
   * @throws org.hibernate.exception.ConstraintViolationException if another process was faster:
   *     nothing was kept, and the next block will follow upon what that one kept
   */
  public static void keep(StatelessSession session, Block block) {
    session.insert(block.row);
  }

  /** Said after a block was kept and committed, so that it need not be read again. */
  public void kept(Block block) {
    if (block.row.place == place + 1) {
      follow(block.row, block.ids);
    }
  }

  private void follow(BlockEntity block, List<Long> ids) {
    settled.sealed(ids);
    place = block.lastPlace();
    seal = block.lastSeal();
  }

  /** Whether it is time to say that all is sealed. */
  public boolean isDue(Instant now) {
    return settled != null && settled.isDue(now);
  }

  /** Nothing was left to be sealed, and this is the latest entry. */
  public void allSealed(long latest, Instant now) {
    settled.allSealed(latest, now);
    if (now.isAfter(begun.plus(BEGIN_ANEW))) {
      begun = now;
      from = settledBefore;
      settledBefore = settled.upTo();
      settled = null;
    }
  }

  /** Which of these entries are in the chain. */
  static Set<Long> sealed(StatelessSession session, Collection<Long> entries) {
    var settled = last(session).map(block -> block.settled).orElse(0L);
    var found = new HashSet<Long>();
    var beyond = new HashSet<Long>();
    entries.forEach(entry -> (entry <= settled ? found : beyond).add(entry));
    if (!beyond.isEmpty()) {
      reaching(session, settled)
          .getResultStream()
          .flatMap(block -> block.parsed().stream())
          .map(Link::entry)
          .filter(beyond::contains)
          .forEach(found::add);
    }
    return found;
  }

  /** Entries that should be in the chain and are not. */
  static long missing(StatelessSession session) {
    var last = last(session);
    var settled = last.map(block -> block.settled).orElse(0L);
    var beyond =
        reaching(session, settled)
            .getResultStream()
            .flatMap(block -> block.parsed().stream())
            .filter(link -> link.entry() > settled)
            .count();
    var written =
        session
            .createSelectionQuery(
                "select count(*) from EntryEntity where id <= :settled", Long.class)
            .setParameter("settled", settled)
            .getSingleResult();
    return written - (last.map(BlockEntity::lastPlace).orElse(0L) - beyond);
  }

  private void begin(StatelessSession session) {
    var last = last(session);
    if (from == null) {
      from = last.map(block -> block.settled).orElse(0L);
    }
    if (settledBefore == null) {
      settledBefore = from;
    }
    settled = new Settled(from);
    var first = reaching(session, from).setMaxResults(1).uniqueResultOptional();
    var before = first.isEmpty() ? last : before(session, first.get().place);
    place = before.map(BlockEntity::lastPlace).orElse(0L);
    seal = before.map(BlockEntity::lastSeal).orElse(Chain.START);
  }

  /** By hand: it is asked with every block, and hardly ever so. */
  private boolean isBehind(Connection connection) throws SQLException {
    try (var query = connection.prepareStatement(LATER)) {
      query.setLong(1, place);
      try (var row = query.executeQuery()) {
        return row.next();
      }
    }
  }

  /** What was kept since, by whomever. */
  private void learn(StatelessSession session) {
    List<BlockEntity> blocks;
    do {
      blocks = after(session, place).setMaxResults(BLOCKS_AT_ONCE).list();
      for (var block : blocks) {
        follow(block, block.parsed().stream().map(Link::entry).toList());
      }
    } while (blocks.size() == BLOCKS_AT_ONCE);
  }

  static SelectionQuery<BlockEntity> after(StatelessSession session, long place) {
    return session
        .createSelectionQuery(
            "from BlockEntity where place > :place order by place", BlockEntity.class)
        .setParameter("place", place);
  }

  private static Optional<BlockEntity> last(StatelessSession session) {
    return before(session, Long.MAX_VALUE);
  }

  private static Optional<BlockEntity> before(StatelessSession session, long place) {
    return session
        .createSelectionQuery(
            "from BlockEntity where place < :place order by place desc", BlockEntity.class)
        .setParameter("place", place)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** Blocks that hold entries after this one. */
  private static SelectionQuery<BlockEntity> reaching(StatelessSession session, long entry) {
    return session
        .createSelectionQuery(
            "from BlockEntity where lastEntry > :entry order by place", BlockEntity.class)
        .setParameter("entry", entry);
  }

  private List<Entry> open(Connection connection, int max) throws SQLException {
    var entries = new ArrayList<Entry>();
    try (var query = connection.prepareStatement(OPEN)) {
      for (var gap : settled.gaps()) {
        if (entries.size() < max) {
          query.setLong(1, gap.after());
          query.setLong(2, gap.before());
          query.setInt(3, max - entries.size());
          try (var rows = query.executeQuery()) {
            while (rows.next()) {
              entries.add(entry(rows));
            }
          }
        }
      }
    }
    return entries;
  }

  private static Entry entry(ResultSet row) throws SQLException {
    var person = row.getObject(5, Long.class);
    return new Entry(
        row.getLong(1),
        row.getObject(2, OffsetDateTime.class).toInstant(),
        row.getString(3),
        row.getString(4),
        person == null ? null : new PersonId(person),
        row.getString(6),
        row.getString(7));
  }

  private Block block(List<Entry> entries) {
    var links = new StringBuilder();
    var before = seal;
    for (var entry : entries) {
      before = Chain.seal(before, entry);
      links.append(entry.id()).append(' ').append(before).append('\n');
    }
    var row = new BlockEntity();
    row.place = place + 1;
    row.entries = entries.size();
    row.lastEntry = entries.getLast().id();
    row.settled = settled.upTo();
    row.links = links.deleteCharAt(links.length() - 1).toString();
    return new Block(row, entries.stream().map(Entry::id).toList());
  }
}
