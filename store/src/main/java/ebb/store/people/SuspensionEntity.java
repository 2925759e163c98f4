package ebb.store.people;

import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import ebb.store.Json;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;
import java.util.Set;
import tools.jackson.core.type.TypeReference;

@Entity
@Table(name = "suspension")
class SuspensionEntity {
  private static final TypeReference<Set<String>> NAMES = new TypeReference<>() {};

  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String reason;
  String note;

  @Column(name = "from_date")
  LocalDate from;

  @Column(name = "until_date")
  LocalDate until;

  String applications;

  @Column(name = "review_date")
  LocalDate review;

  boolean discreet;
  boolean notices;

  @Column(name = "ordered_by")
  String by;

  long cause;

  @Column(name = "ended_by")
  Long endedBy;

  static SuspensionEntity of(Suspension suspension, long cause) {
    var row = new SuspensionEntity();
    row.id = suspension.id();
    row.personId = suspension.person().value();
    row.reason = suspension.reason().name();
    row.note = suspension.note();
    row.from = suspension.from();
    row.until = suspension.until();
    row.applications = Json.write(suspension.applications());
    row.review = suspension.review();
    row.discreet = suspension.discreet();
    row.notices = suspension.notices();
    row.by = suspension.by();
    row.cause = cause;
    return row;
  }

  Suspension toSuspension() {
    return new Suspension(
        id,
        new PersonId(personId),
        Suspension.Reason.valueOf(reason),
        note,
        from,
        until,
        Json.read(applications, NAMES),
        review,
        discreet,
        notices,
        by);
  }
}
