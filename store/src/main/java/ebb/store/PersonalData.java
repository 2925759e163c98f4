package ebb.store;

import ebb.core.application.ObservedAccount;
import ebb.core.person.PersonId;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.hibernate.StatelessSession;

/**
 * What the tables say of a person, all of them in one place, so that it can be forgotten whole.
 * That something was done, when, where and by whom stays, and so do the keys by which sources know
 * a person: what they go on sending of somebody would come back otherwise. The journal has its own
 * way. An account that was stripped stays as it is: nothing in it says whose it was.
 */
public final class PersonalData {
  private static final String NAME = "Forgotten";

  private static final String ACCOUNTS = "(select id from account where person_id = :person)";

  private static final String PARTS =
      "(select a.id from departure_account a join departure d on d.id = a.departure_id"
          + " where d.person_id = :person)";

  private static final List<String> OF_PERSON =
      List.of(
          "delete from assertion where person_id = :person",
          "delete from given where person_id = :person",
          "delete from suspension where person_id = :person",
          "delete from emergency_stop where person_id = :person",
          "delete from person_value where person_id = :person",
          "delete from person_clue where person_id = :person",
          "delete from conflict where person_id = :person",
          "delete from login_name where person_id = :person",
          "delete from end_warning where person_id = :person",
          "delete from successor where person_id = :person",
          "delete from apart where person_id = :person or other_id = :person",
          "delete from fact_read where fact_person_id = :person or reader_id = :person",
          "delete from ask where person_id = :person",
          "delete from still_needed where person_id = :person",
          "delete from drift where person_id = :person",
          "delete from drifted_value where person_id = :person",
          "delete from account_apart where person_id = :person",
          "delete from way_in where account_id in " + ACCOUNTS,
          "delete from way_look where account_id in " + ACCOUNTS,
          "delete from account_use where account_id in " + ACCOUNTS,
          "delete from account_group where account_id in " + ACCOUNTS,
          "delete from attempt where change_id in (select id from change where person_id = :person)",
          "update change set edits = '{\"edits\":{}}', problem = null where person_id = :person",
          "update hold set reason = 'forgotten' where person_id = :person",
          // What still waits has nobody any more whom it could reach.
          "delete from notice where person_id = :person and state <> 'SENT'",
          "update notice set recipient = null, subject = 'forgotten', problem = null, about = null"
              + " where person_id = :person",
          "update departure set not_returning = null, paused = null, accepted = null,"
              + " declined = null, reason = case when reason like 'last day%' then reason"
              + " else 'forgotten' end where person_id = :person",
          "update departure_account set references_found = null, problem = null, waivers = '{}'"
              + " where id in "
              + PARTS,
          "update automatic_reply set problem = null where departure_account_id in " + PARTS,
          "update handover_item set item_id = rawtohex(hash('SHA-256', item_id)), name = kind,"
              + " there = null, place = null, problem = null, recipient = null,"
              + " left_out = case when left_out is null then null else 'forgotten' end"
              + " where departure_account_id in "
              + PARTS);

  private static final String REST =
      "merge into resting_login (print, person_id, until_date) key (print)"
          + " select rawtohex(hash('SHA-256', name)), person_id, cast(:until as date) from login_name"
          + " where person_id = :person";

  private static final String PERSON =
      "update person set display_name = :name, sort_name = lower(:name), call_name = lower(:name),"
          + " login = null, department = null, user_type = null,"
          + " employee_number = null, manager_id = null, start_date = null, end_date = null,"
          + " attributes = '{}', wakes_at = null, unclear = null, version = version + 1"
          + " where id = :person";

  private static final String ACCOUNT =
      "update account set observed = :observed, remote_id = 'forgotten ' || id, grounds = '{}',"
          + " left_alone = null, likely = null, print_high = null, print_low = null"
          + " where person_id = :person and stripped_at is null";

  private static final String ROW = " where import_id = :made and row_key = :key";

  /** When a person was forgotten; empty while they are not. */
  public Optional<Instant> forgottenAt(StatelessSession session, PersonId person) {
    return session
        .createNativeQuery("select at from forgotten where person_id = :person", Object.class)
        .setParameter("person", person.value())
        .uniqueResultOptional()
        .map(at -> ((OffsetDateTime) at).toInstant());
  }

  /**
   * Forgets a person. Done twice, nothing more happens but that the time is another.
   *
   * @param namesRestUntil the last day on which the names they signed in by are given to nobody
   * @param person of whom no account exists any more but stripped ones, and nothing is under way
   */
  public void forget(
      StatelessSession session, PersonId person, LocalDate namesRestUntil, Instant at) {
    var name = text(session, "select display_name from person where id = :person", person);
    // All that leads there is looked up before it is gone.
    for (var set : sets(session, person)) {
      forget(session, set, person, name);
    }
    keys(session, person).forEach((source, keys) -> forgetRows(session, source, keys));
    run(session, REST, Map.of("person", person.value(), "until", namesRestUntil));
    for (var sql : OF_PERSON) {
      run(session, sql, Map.of("person", person.value()));
    }
    run(session, ACCOUNT, Map.of("person", person.value(), "observed", Json.write(blank())));
    run(session, PERSON, Map.of("person", person.value(), "name", NAME));
    run(
        session,
        "merge into forgotten (person_id, at) key (person_id) values (:person, :at)",
        Map.of("person", person.value(), "at", at.atOffset(ZoneOffset.UTC)));
  }

  private static ObservedAccount blank() {
    return new ObservedAccount("forgotten", null, false, new TreeMap<>(), new TreeSet<>());
  }

  /** Sets that brought something about for them. */
  private static List<Long> sets(StatelessSession session, PersonId person) {
    return session
        .createNativeQuery(
            "select change_set_id from change where person_id = :person"
                + " union select cause from assertion where person_id = :person"
                + " union select cause from given where person_id = :person"
                + " union select cause from suspension where person_id = :person",
            Long.class)
        .setParameter("person", person.value())
        .list();
  }

  private static void forget(StatelessSession session, long set, PersonId person, String name) {
    run(
        session,
        "delete from input where change_set_id = :set and applied in (true, false)"
            + " and person_id = :person",
        Map.of("set", set, "person", person.value()));
    run(
        session,
        "update change_set set title = replace(title, :name, 'somebody')"
            + " where id = :set and locate(:name, title) > 0",
        Map.of("set", set, "name", name));
  }

  private static Map<String, List<String>> keys(StatelessSession session, PersonId person) {
    var keys = new HashMap<String, List<String>>();
    session
        .createNativeQuery(
            "select source, row_key from source_key where person_id = :person", Object[].class)
        .setParameter("person", person.value())
        .getResultStream()
        .forEach(
            row ->
                keys.computeIfAbsent((String) row[0], _ -> new ArrayList<>()).add((String) row[1]));
    return keys;
  }

  /** Import by import: the index of rows begins with theirs. */
  private static void forgetRows(StatelessSession session, String source, List<String> keys) {
    var imports =
        session
            .createNativeQuery("select id from import where source = :source", Long.class)
            .setParameter("source", source)
            .list();
    for (var made : imports) {
      for (var key : keys) {
        forgetRows(session, Map.of("made", made, "key", key));
      }
    }
  }

  private static void forgetRows(StatelessSession session, Map<String, Object> row) {
    var found =
        run(
            session,
            "update import_row set row_values = '{}', texts = '{}', edits = '{}', problems = '[]',"
                + " resembles = '{}'"
                + ROW,
            row);
    if (found > 0) {
      run(
          session,
          "delete from import_problem where import_id = :made and line in"
              + " (select line from import_row"
              + ROW
              + ")",
          row);
    }
  }

  private static String text(StatelessSession session, String sql, PersonId person) {
    return session
        .createNativeQuery(sql, String.class)
        .setParameter("person", person.value())
        .getSingleResult();
  }

  private static int run(StatelessSession session, String sql, Map<String, Object> values) {
    var query = session.createNativeMutationQuery(sql);
    values.forEach(query::setParameter);
    return query.executeUpdate();
  }
}
