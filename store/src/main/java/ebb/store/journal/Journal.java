package ebb.store.journal;

import ebb.core.journal.Chain;
import ebb.core.journal.Entry;
import ebb.core.operator.Reach;
import ebb.core.person.PersonId;
import ebb.store.Json;
import ebb.store.Numbers;
import ebb.store.Page;
import ebb.store.ReachClause;
import ebb.store.SecretBox;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;

/**
 * The journal. Entries are written in the transaction of the deed they tell of, and sealed into the
 * chain afterwards, by one sealer. Personal values lie beside it, each person's under a key that
 * can be destroyed: the chain holds only salted commitments to them.
 */
public final class Journal {
  public static final List<Class<?>> ENTITIES =
      List.of(EntryEntity.class, SealEntity.class, PersonKeyEntity.class);

  private static final int SALT_BYTES = 16;

  private final SecretBox master;

  /**
   * @param master wraps the persons' keys
   */
  public Journal(SecretBox master) {
    this.master = master;
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

  private static final String SEAL =
      "insert into journal_seal (entry_id, place, seal) values (?, ?, ?)";

  private static final String OPEN_ENTRIES =
      "select id, at, actor, act, person_id, reason, commitment from journal_entry e where id > ?"
          + " and not exists (select 1 from journal_seal s where s.entry_id = e.id)"
          + " order by id limit ?";

  private static final String OPEN =
      "e.id > :after and not exists (select 1 from SealEntity s where s.entryId = e.id)"
          + " order by e.id";

  /** What is kept of the details: the salt lies with them, so that both go together. */
  private record Detail(String salt, String text) {}

  /**
   * An entry as it is shown.
   *
   * @param details null if there are none, or the person's key was destroyed
   * @param sealed whether it is in the chain yet
   */
  public record Shown(Entry entry, String details, boolean sealed) {}

  public void write(StatelessSession session, Instant at, Collection<Deed> deeds) {
    var numbers = Numbers.take(session, "journal_seq", deeds.size());
    var boxes = boxes(session, deeds);
    var entries = new ArrayList<EntryEntity>();
    for (var deed : deeds) {
      var row = entry(numbers.pop(), at.truncatedTo(ChronoUnit.MICROS), deed);
      if (deed.isDetailed()) {
        var salt = SecretBox.random(SALT_BYTES);
        var text = Json.write(deed.details());
        row.commitment = Chain.commitment(salt, text);
        row.details =
            boxes
                .get(deed.person())
                .seal(Json.write(new Detail(HexFormat.of().formatHex(salt), text)));
      }
      entries.add(row);
    }
    insert(session, entries);
  }

  /** By hand: with every change there is an entry, and binding it costs most of it. */
  private static void insert(StatelessSession session, List<EntryEntity> entries) {
    session.doWork(
        connection -> {
          try (var insert = connection.prepareStatement(INSERT)) {
            for (var row : entries) {
              insert.setLong(1, row.id);
              insert.setObject(2, row.at.atOffset(ZoneOffset.UTC));
              insert.setString(3, row.actor);
              insert.setString(4, row.act);
              insert.setObject(5, row.personId, Types.BIGINT);
              insert.setString(6, row.reason);
              insert.setString(7, row.commitment);
              insert.setString(8, row.details);
              insert.addBatch();
            }
            insert.executeBatch();
          }
        });
  }

  public void write(StatelessSession session, Instant at, Deed deed) {
    write(session, at, List.of(deed));
  }

  private static EntryEntity entry(long id, Instant at, Deed deed) {
    var row = new EntryEntity();
    row.id = id;
    row.at = at;
    row.actor = deed.actor();
    row.act = deed.act();
    row.personId = deed.person() == null ? null : deed.person().value();
    row.reason = deed.reason();
    return row;
  }

  /** The boxes of the people of whom details are kept; who has no key gets one. */
  private Map<PersonId, SecretBox> boxes(StatelessSession session, Collection<Deed> deeds) {
    var wanted =
        deeds.stream()
            .filter(Deed::isDetailed)
            .map(deed -> deed.person().value())
            .collect(Collectors.toCollection(TreeSet::new));
    var boxes = new HashMap<PersonId, SecretBox>();
    if (wanted.isEmpty()) {
      return boxes;
    }
    addKnown(session, wanted, boxes);
    if (boxes.size() < wanted.size()) {
      // Somebody else may be giving them keys: there must be only one for each.
      session
          .createNativeQuery(
              "select id from person where id in (:people) order by id for update", Long.class)
          .setParameterList("people", wanted)
          .getResultList();
      addKnown(session, wanted, boxes);
      wanted.removeIf(person -> boxes.containsKey(new PersonId(person)));
      boxes.putAll(newBoxes(session, wanted));
    }
    return boxes;
  }

  private void addKnown(
      StatelessSession session, Collection<Long> wanted, Map<PersonId, SecretBox> boxes) {
    session.doWork(
        connection -> {
          try (var query =
              connection.prepareStatement("select wrapped from person_key where person_id = ?")) {
            for (var person : wanted) {
              query.setLong(1, person);
              try (var found = query.executeQuery()) {
                if (found.next()) {
                  boxes.put(new PersonId(person), opened(found.getString(1)));
                }
              }
            }
          }
        });
  }

  private Map<PersonId, SecretBox> newBoxes(StatelessSession session, Collection<Long> people) {
    var boxes = new HashMap<PersonId, SecretBox>();
    var made = new ArrayList<PersonKeyEntity>();
    for (var person : people) {
      var key = SecretBox.newKey();
      var row = new PersonKeyEntity();
      row.personId = person;
      row.wrapped = master.seal(key);
      made.add(row);
      boxes.put(new PersonId(person), box(key));
    }
    session.insertMultiple(made);
    return boxes;
  }

  private SecretBox opened(String wrapped) {
    return box(master.open(wrapped));
  }

  private static SecretBox box(String key) {
    return new SecretBox(Base64.getDecoder().decode(key));
  }

  /**
   * Seals entries that are not in the chain yet, in the order of their numbers. One sealer at a
   * time: the place in the chain is unique, so a second one fails and comes again.
   *
   * @param after entries up to this number are sealed already
   * @return the numbers of those that were sealed; fewer than max means that none are left
   */
  public List<Long> seal(StatelessSession session, long after, int max) {
    var last = last(session);
    return session.doReturningWork(
        connection -> {
          var sealed = new ArrayList<Long>();
          try (var open = connection.prepareStatement(OPEN_ENTRIES);
              var insert = connection.prepareStatement(SEAL)) {
            open.setLong(1, after);
            open.setInt(2, max);
            var before = last.map(seal -> seal.seal).orElse(Chain.START);
            var place = last.map(seal -> seal.place).orElse(0L);
            try (var rows = open.executeQuery()) {
              while (rows.next()) {
                var entry = entry(rows);
                before = Chain.seal(before, entry);
                insert.setLong(1, entry.id());
                insert.setLong(2, ++place);
                insert.setString(3, before);
                insert.addBatch();
                sealed.add(entry.id());
              }
            }
            if (!sealed.isEmpty()) {
              insert.executeBatch();
            }
          }
          return sealed;
        });
  }

  private static Entry entry(ResultSet row) throws SQLException {
    var person = row.getObject("person_id", Long.class);
    return new Entry(
        row.getLong("id"),
        row.getObject("at", OffsetDateTime.class).toInstant(),
        row.getString("actor"),
        row.getString("act"),
        person == null ? null : new PersonId(person),
        row.getString("reason"),
        row.getString("commitment"));
  }

  /**
   * Whether there are entries that are not in the chain yet.
   *
   * @param after entries up to this number are known to be
   */
  public boolean hasOpen(StatelessSession session, long after) {
    return !session
        .createSelectionQuery("select e.id from EntryEntity e where " + OPEN, Long.class)
        .setParameter("after", after)
        .setMaxResults(1)
        .list()
        .isEmpty();
  }

  private static Optional<SealEntity> last(StatelessSession session) {
    return session
        .createSelectionQuery("from SealEntity order by place desc", SealEntity.class)
        .setMaxResults(1)
        .uniqueResultOptional();
  }

  /** Where verification has come to. */
  public record Verified(long place, String seal, List<String> faults) {
    public static final Verified START = new Verified(0, Chain.START, List.of());
  }

  /**
   * Checks the next links of the chain, and the details against their commitments.
   *
   * @param from where the last part ended
   * @return the same place as before once the end is reached
   */
  public Verified verify(StatelessSession session, Verified from, int max) {
    var faults = new ArrayList<>(from.faults());
    var before = from.seal();
    var place = from.place();
    var seals =
        session
            .createSelectionQuery(
                "from SealEntity where place > :place order by place", SealEntity.class)
            .setParameter("place", from.place())
            .setMaxResults(max)
            .list();
    for (var seal : seals) {
      if (seal.place != place + 1) {
        faults.add(
            "Places %d to %d of the chain are missing.".formatted(place + 1, seal.place - 1));
      }
      var row = session.get(EntryEntity.class, seal.entryId);
      if (row == null) {
        faults.add("Entry %d was taken out.".formatted(seal.entryId));
      } else if (!Chain.seal(before, entry(row)).equals(seal.seal)) {
        faults.add("Entry %d does not match its seal.".formatted(seal.entryId));
      } else if (!detailMatches(session, row)) {
        faults.add(
            "The details of entry %d do not match their commitment.".formatted(seal.entryId));
      }
      before = seal.seal;
      place = seal.place;
    }
    return new Verified(place, before, faults);
  }

  private boolean detailMatches(StatelessSession session, EntryEntity row) {
    return detail(session, row)
        .map(
            detail ->
                Chain.commitment(HexFormat.of().parseHex(detail.salt()), detail.text())
                    .equals(row.commitment))
        .orElse(true);
  }

  private Optional<Detail> detail(StatelessSession session, EntryEntity row) {
    if (row.commitment == null) {
      return Optional.empty();
    }
    var key = row.details == null ? null : session.get(PersonKeyEntity.class, row.personId);
    if (key == null) {
      return Optional.empty();
    }
    var box = opened(key.wrapped);
    return Optional.of(Json.read(box.open(row.details), Detail.class));
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
    return new Page<>(
        shown.stream()
            .map(
                row ->
                    new Shown(
                        entry(row),
                        detail(session, row).map(Detail::text).orElse(null),
                        session.get(SealEntity.class, row.id) != null))
            .toList(),
        rows.size() > limit ? shown.getLast().id.toString() : null);
  }

  /** Destroys a person's key: the chain stays whole, the values are gone for good. */
  public void forget(StatelessSession session, PersonId person) {
    session
        .createMutationQuery("delete from PersonKeyEntity where personId = :person")
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
