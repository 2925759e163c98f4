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
import java.time.Instant;
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
import org.hibernate.StatelessSession;

/**
 * The journal. Entries are written in the transaction of the deed they tell of, and sealed into the
 * chain afterwards, by one sealer. Personal values lie beside it, each person's under a key that
 * can be destroyed: the chain holds only salted commitments to them.
 */
public final class Journal {
  public static final List<Class<?>> ENTITIES =
      List.of(EntryEntity.class, SealEntity.class, DetailEntity.class, PersonKeyEntity.class);

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

    public Deed because(String why) {
      return new Deed(actor, act, person, why, details);
    }
  }

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
    var keys = new HashMap<PersonId, SecretBox>();
    for (var deed : deeds) {
      write(session, numbers.pop(), at.truncatedTo(ChronoUnit.MICROS), deed, keys);
    }
  }

  public void write(StatelessSession session, Instant at, Deed deed) {
    write(session, at, List.of(deed));
  }

  private void write(
      StatelessSession session, long id, Instant at, Deed deed, Map<PersonId, SecretBox> keys) {
    var row = new EntryEntity();
    row.id = id;
    row.at = at;
    row.actor = deed.actor();
    row.act = deed.act();
    row.personId = deed.person() == null ? null : deed.person().value();
    row.reason = deed.reason();
    if (deed.details() != null && !deed.details().isEmpty()) {
      var salt = SecretBox.random(SALT_BYTES);
      var text = Json.write(deed.details());
      row.commitment = Chain.commitment(salt, text);
      var detail = new DetailEntity();
      detail.entryId = id;
      detail.personId = deed.person().value();
      detail.body =
          keys.computeIfAbsent(deed.person(), person -> key(session, person))
              .seal(Json.write(new Detail(HexFormat.of().formatHex(salt), text)));
      session.insert(detail);
    }
    session.insert(row);
  }

  private SecretBox key(StatelessSession session, PersonId person) {
    var row = session.get(PersonKeyEntity.class, person.value());
    if (row == null) {
      row = new PersonKeyEntity();
      row.personId = person.value();
      row.wrapped = master.seal(SecretBox.newKey());
      session.insert(row);
    }
    return new SecretBox(Base64.getDecoder().decode(master.open(row.wrapped)));
  }

  /**
   * Seals entries that are not in the chain yet, in the order of their numbers. One sealer at a
   * time: the place in the chain is unique, so a second one fails and comes again.
   *
   * @return how many were sealed; fewer than max means that none are left
   */
  public int seal(StatelessSession session, int max) {
    var last = last(session);
    var open =
        session
            .createSelectionQuery(
                "from EntryEntity e where not exists"
                    + " (select 1 from SealEntity s where s.entryId = e.id) order by e.id",
                EntryEntity.class)
            .setMaxResults(max)
            .list();
    var before = last.map(seal -> seal.seal).orElse(Chain.START);
    var place = last.map(seal -> seal.place).orElse(0L);
    var seals = new ArrayList<SealEntity>();
    for (var row : open) {
      var seal = new SealEntity();
      seal.entryId = row.id;
      seal.place = ++place;
      seal.seal = Chain.seal(before, entry(row));
      before = seal.seal;
      seals.add(seal);
    }
    session.insertMultiple(seals);
    return seals.size();
  }

  /** Whether there are entries that are not in the chain yet. */
  public boolean hasOpen(StatelessSession session) {
    return !session
        .createSelectionQuery(
            "select e.id from EntryEntity e where not exists"
                + " (select 1 from SealEntity s where s.entryId = e.id)",
            Long.class)
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
    var detail = session.get(DetailEntity.class, row.id);
    var key = detail == null ? null : session.get(PersonKeyEntity.class, detail.personId);
    if (key == null) {
      return Optional.empty();
    }
    var box = new SecretBox(Base64.getDecoder().decode(master.open(key.wrapped)));
    return Optional.of(Json.read(box.open(detail.body), Detail.class));
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
