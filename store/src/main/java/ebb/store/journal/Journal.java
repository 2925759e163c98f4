package ebb.store.journal;

import ebb.core.journal.Chain;
import ebb.core.journal.Entry;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Batch;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import ebb.store.SecretBox;
import ebb.store.journal.BlockEntity.Link;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/**
 * The journal. Entries are written in the transaction of the deed they tell of, and sealed into the
 * chain afterwards, by one sealer. Personal values lie beside it, each person's under a key that
 * can be destroyed: the chain holds only salted commitments to them.
 */
public final class Journal {
  public static final List<Class<?>> ENTITIES =
      List.of(EntryEntity.class, BlockEntity.class, PersonKeyEntity.class);

  private static final int SALT_BYTES = 16;
  private static final int BLOCKS_VERIFIED_AT_ONCE = 4;

  private final PersonKeys keys;

  /**
   * @param master wraps the persons' keys
   */
  public Journal(SecretBox master) {
    this.keys = new PersonKeys(master);
  }

  /**
   * A deed to be written.
   *
   * @param person null where no person is concerned; then there are no details either
   * @param details personal values; null if there are none
   */
  public record Deed(
      String actor, String act, PersonId person, String reason, Map<String, ?> details) {
    public static Deed of(String actor, String act) {
      return new Deed(actor, act, null, null, null);
    }

    public static Deed of(String actor, String act, PersonId person) {
      return new Deed(actor, act, person, null, null);
    }

    boolean isDetailed() {
      return details != null && !details.isEmpty();
    }

    public Deed because(String why) {
      return new Deed(actor, act, person, why, details);
    }
  }

  private static final String INSERT =
      "insert into journal_entry (id, at, actor, act, person_id, reason, commitment, details)"
          + " values (?, ?, ?, ?, ?, ?, ?, ?)";

  /** What is kept of the details: the salt lies with them, so that both go together. */
  private record Detail(String salt, String text) {
    private static final int SALT_DIGITS = 2 * SALT_BYTES;

    /** As JSON is how entries were kept at first. */
    static Detail read(String kept) {
      return kept.startsWith("{")
          ? Json.read(kept, Detail.class)
          : new Detail(kept.substring(0, SALT_DIGITS), kept.substring(SALT_DIGITS));
    }

    String written() {
      return salt + text;
    }

    String commitment() {
      return Chain.commitment(HexFormat.of().parseHex(salt), text);
    }
  }

  /**
   * An entry as it is shown.
   *
   * @param details null if there are none, or the person's key was destroyed
   * @param sealed whether it is in the chain yet
   */
  public record Shown(Entry entry, String details, boolean sealed) {}

  public void write(StatelessSession session, Instant at, Collection<Deed> deeds) {
    var numbers = Numbers.take(session, "journal_seq", deeds.size());
    var boxes =
        keys.of(session, deeds.stream().filter(Deed::isDetailed).map(Deed::person).toList());
    var moment = at.truncatedTo(ChronoUnit.MICROS);
    // Sealing what is personal takes longest, and no entry waits for another.
    var entries = deeds.parallelStream().map(deed -> entry(moment, deed, boxes)).toList();
    entries.forEach(row -> row.id = numbers.pop());
    Batch.execute(session, INSERT, entries, Journal::bind);
  }

  private static void bind(PreparedStatement insert, EntryEntity row) throws SQLException {
    insert.setLong(1, row.id);
    insert.setObject(2, row.at.atOffset(ZoneOffset.UTC));
    insert.setString(3, row.actor);
    insert.setString(4, row.act);
    insert.setObject(5, row.personId, Types.BIGINT);
    insert.setString(6, row.reason);
    insert.setString(7, row.commitment);
    insert.setString(8, row.details);
  }

  public void write(StatelessSession session, Instant at, Deed deed) {
    write(session, at, List.of(deed));
  }

  private static EntryEntity entry(Instant at, Deed deed, Map<PersonId, SecretBox> boxes) {
    var row = new EntryEntity();
    row.at = at;
    row.actor = deed.actor();
    row.act = deed.act();
    row.personId = deed.person() == null ? null : deed.person().value();
    row.reason = deed.reason();
    if (deed.isDetailed()) {
      var salt = SecretBox.random(SALT_BYTES);
      var text = Json.write(deed.details());
      row.commitment = Chain.commitment(salt, text);
      row.details =
          boxes.get(deed.person()).seal(new Detail(HexFormat.of().formatHex(salt), text).written());
    }
    return row;
  }

  /** Where verification has come to. */
  public record Verified(long place, String seal, List<String> faults) {
    public static final Verified START = new Verified(0, Chain.START, List.of());
  }

  /**
   * Checks the next blocks of the chain, and the details against their commitments; at its end also
   * whether an entry is missing from it.
   *
   * @param from where the last part ended
   * @return the same place as before once the end is reached
   */
  public Verified verify(StatelessSession session, Verified from) {
    var faults = new ArrayList<>(from.faults());
    var next = Sealing.after(session, from.place()).setMaxResults(BLOCKS_VERIFIED_AT_ONCE).list();
    var seal = from.seal();
    var place = from.place();
    for (var block : next) {
      var links = block.parsed();
      if (block.place != place + 1) {
        faults.add(
            "Places %d to %d of the chain are missing.".formatted(place + 1, block.place - 1));
      }
      var rows = rows(session, links);
      for (var link : links) {
        fault(session, seal, link, rows.get(link.entry())).ifPresent(faults::add);
        seal = link.seal();
      }
      place = block.place + links.size() - 1;
    }
    if (next.isEmpty()) {
      var missing = Sealing.missing(session);
      if (missing > 0) {
        faults.add("%d entries are not in the chain.".formatted(missing));
      }
    }
    return new Verified(place, seal, faults);
  }

  private static Map<Long, EntryEntity> rows(StatelessSession session, List<Link> links) {
    return session
        .createSelectionQuery("from EntryEntity where id in (:ids)", EntryEntity.class)
        .setParameterList("ids", links.stream().map(Link::entry).toList())
        .getResultStream()
        .collect(Collectors.toMap(row -> row.id, row -> row));
  }

  private Optional<String> fault(
      StatelessSession session, String before, Link link, EntryEntity row) {
    if (row == null) {
      return Optional.of("Entry %d was taken out.".formatted(link.entry()));
    }
    if (!Chain.seal(before, entry(row)).equals(link.seal())) {
      return Optional.of("Entry %d does not match its seal.".formatted(link.entry()));
    }
    return detailMatches(session, row)
        ? Optional.empty()
        : Optional.of(
            "The details of entry %d do not match their commitment.".formatted(link.entry()));
  }

  private boolean detailMatches(StatelessSession session, EntryEntity row) {
    return detail(session, row)
        .map(detail -> detail.commitment().equals(row.commitment))
        .orElse(true);
  }

  private Optional<Detail> detail(StatelessSession session, EntryEntity row) {
    if (row.commitment == null) {
      return Optional.empty();
    }
    return row.details == null
        ? Optional.empty()
        : keys.of(session, new PersonId(row.personId))
            .map(box -> Detail.read(box.open(row.details)));
  }

  /**
   * Newest first.
   *
   * @param person null for everything
   */
  public Page<Shown> list(
      StatelessSession session, PersonId person, Reach reach, Long before, int limit) {
    var within = ReachClause.on("personId", reach);
    var query =
        session
            .createSelectionQuery(
                "from EntryEntity where id < :before"
                    + (person == null ? "" : " and personId = :person")
                    + within.within()
                    + " order by id desc",
                EntryEntity.class)
            .setParameter("before", Objects.requireNonNullElse(before, Long.MAX_VALUE))
            .setMaxResults(limit + 1);
    if (person != null) {
      query.setParameter("person", person.value());
    }
    var rows = within.fill(query).list();
    var shown = rows.subList(0, Math.min(limit, rows.size()));
    var sealed = Sealing.sealed(session, shown.stream().map(row -> row.id).toList());
    return new Page<>(
        shown.stream()
            .map(
                row ->
                    new Shown(
                        entry(row),
                        detail(session, row).map(Detail::text).orElse(null),
                        sealed.contains(row.id)))
            .toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** Destroys a person's key: the chain stays whole, the values are gone for good. */
  public void forget(StatelessSession session, PersonId person) {
    keys.destroy(session, person);
    // Nobody can open them; and nobody is to take them for what a later key sealed.
    session
        .createMutationQuery("update EntryEntity set details = null where personId = :person")
        .setParameter("person", person.value())
        .executeUpdate();
  }

  /** Grows with every entry; 0 while there is none. */
  public long latest(StatelessSession session) {
    return session
        .createSelectionQuery("select coalesce(max(id), 0) from EntryEntity", Long.class)
        .getSingleResult();
  }

  private static Entry entry(EntryEntity row) {
    return new Entry(
        row.id,
        row.at,
        row.actor,
        row.act,
        row.personId == null ? null : new PersonId(row.personId),
        row.reason,
        row.commitment);
  }
}
