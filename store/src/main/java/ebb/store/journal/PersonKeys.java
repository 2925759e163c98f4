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

  private final SecretBox master;

  /** Unwrapping costs more than reading: the newest are remembered, by what they are wrapped in. */
  private final Map<String, SecretBox> unwrapped =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<String, SecretBox> eldest) {
              return size() > REMEMBERED;
            }
          });

  PersonKeys(SecretBox master) {
    this.master = master;
  }

  /** Empty once the key was destroyed, or if there never was one. */
  Optional<SecretBox> of(StatelessSession session, PersonId person) {
    return Optional.ofNullable(session.get(PersonKeyEntity.class, person.value()))
        .map(row -> unwrapped(row.wrapped));
  }

  /** The boxes of all these people; who has no key gets one. */
  Map<PersonId, SecretBox> of(StatelessSession session, Collection<PersonId> people) {
    var wanted = new TreeSet<Long>();
    people.forEach(person -> wanted.add(person.value()));
    var boxes = new HashMap<PersonId, SecretBox>();
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
      boxes.putAll(made(session, wanted));
    }
    return boxes;
  }

  private void addKnown(
      StatelessSession session, Collection<Long> wanted, Map<PersonId, SecretBox> boxes) {
    Among.each(
        session,
        "select person_id, wrapped from person_key where person_id in (%s)",
        wanted,
        row -> boxes.put(new PersonId(row.getLong(1)), unwrapped(row.getString(2))));
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
    unwrapped.clear();
  }

  private SecretBox unwrapped(String wrapped) {
    return unwrapped.computeIfAbsent(wrapped, text -> box(master.open(text)));
  }

  private static SecretBox box(String key) {
    return new SecretBox(Base64.getDecoder().decode(key));
  }
}
