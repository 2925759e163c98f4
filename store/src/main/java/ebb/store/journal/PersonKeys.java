package ebb.store.journal;

import ebb.core.person.PersonId;
import ebb.store.Among;
import ebb.store.SecretBox;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import org.hibernate.StatelessSession;

/** A key for each person, wrapped by the master key, that can be destroyed. */
final class PersonKeys {
  private static final int REMEMBERED = 20_000;

  /**
   * A key that was found.
   *
   * @param destroyed how many had been destroyed before it was looked for: it holds until one more
   *     is, by whomever
   */
  private record Found(long destroyed, SecretBox box) {}

  private final SecretBox master;

  /** Looking one up and unwrapping it cost as much as sealing: the newest are remembered. */
  private final Map<PersonId, Found> remembered =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<PersonId, Found> eldest) {
              return size() > REMEMBERED;
            }
          });

  PersonKeys(SecretBox master) {
    this.master = master;
  }

  /** Empty once the key was destroyed, or if there never was one. */
  Optional<SecretBox> of(StatelessSession session, PersonId person) {
    var destroyed = destroyed(session);
    return Optional.ofNullable(session.get(PersonKeyEntity.class, person.value()))
        .map(row -> box(destroyed, person, row.wrapped));
  }

  /** The boxes of all these people; who has no key gets one. */
  Map<PersonId, SecretBox> of(StatelessSession session, Collection<PersonId> people) {
    var boxes = new HashMap<PersonId, SecretBox>();
    if (people.isEmpty()) {
      return boxes;
    }
    var destroyed = destroyed(session);
    var wanted = new TreeSet<Long>();
    for (var person : people) {
      var found = remembered.get(person);
      if (found != null && found.destroyed() == destroyed) {
        boxes.put(person, found.box());
      } else {
        wanted.add(person.value());
      }
    }
    if (!wanted.isEmpty()) {
      addOthers(session, destroyed, wanted, boxes);
    }
    return boxes;
  }

  private void addOthers(
      StatelessSession session,
      long destroyed,
      TreeSet<Long> wanted,
      Map<PersonId, SecretBox> boxes) {
    addKnown(session, destroyed, wanted, boxes);
    if (!wanted.isEmpty()) {
      // Somebody else may be giving them keys: there must be only one for each.
      session
          .createNativeQuery(
              "select id from person where id in (:people) order by id for update", Long.class)
          .setParameterList("people", wanted)
          .getResultList();
      addKnown(session, destroyed, wanted, boxes);
      boxes.putAll(made(session, wanted));
    }
  }

  /** Those that are found are not wanted any more. */
  private void addKnown(
      StatelessSession session,
      long destroyed,
      Collection<Long> wanted,
      Map<PersonId, SecretBox> boxes) {
    Among.each(
        session,
        "select person_id, wrapped from person_key where person_id in (%s)",
        wanted,
        row -> {
          var person = new PersonId(row.getLong(1));
          boxes.put(person, box(destroyed, person, row.getString(2)));
        });
    wanted.removeIf(person -> boxes.containsKey(new PersonId(person)));
  }

  /** How many keys were destroyed so far. */
  private static long destroyed(StatelessSession session) {
    return session.doReturningWork(
        connection -> {
          try (var query = connection.prepareStatement("select destroyed from person_key_end");
              var row = query.executeQuery()) {
            row.next();
            return row.getLong(1);
          }
        });
  }

  private Map<PersonId, SecretBox> made(StatelessSession session, Collection<Long> people) {
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

  /** Whatever it wrapped is gone for good. */
  void destroy(StatelessSession session, PersonId person) {
    session
        .createMutationQuery("delete from PersonKeyEntity where personId = :person")
        .setParameter("person", person.value())
        .executeUpdate();
    session
        .createNativeMutationQuery("update person_key_end set destroyed = destroyed + 1")
        .executeUpdate();
    remembered.remove(person);
  }

  private SecretBox box(long destroyed, PersonId person, String wrapped) {
    var box = box(master.open(wrapped));
    remembered.put(person, new Found(destroyed, box));
    return box;
  }

  private static SecretBox box(String key) {
    return new SecretBox(Base64.getDecoder().decode(key));
  }
}
