package ebb.store.applications;

import ebb.core.dormancy.StillNeeded;
import ebb.core.dormancy.StillNeeded.Answer;
import ebb.core.person.PersonId;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "still_needed")
class StillNeededEntity {
  @Id
  @Column(name = "account_id")
  Long accountId;

  @Column(name = "person_id")
  long personId;

  String application;

  @Column(name = "asked_of")
  String askedOf;

  @Column(name = "asked_by")
  String askedBy;

  @Column(name = "asked_at")
  Instant askedAt;

  LocalDate until;
  String answer;

  @Column(name = "answered_at")
  Instant answeredAt;

  static StillNeededEntity of(StillNeeded one) {
    var row = new StillNeededEntity();
    row.accountId = one.account();
    row.personId = one.person().value();
    row.application = one.application();
    row.askedOf = one.askedOf();
    row.askedBy = one.askedBy();
    row.askedAt = one.askedAt();
    row.until = one.until();
    row.answer = one.answer().name();
    row.answeredAt = one.answeredAt();
    return row;
  }

  StillNeeded toStillNeeded() {
    return new StillNeeded(
        accountId,
        new PersonId(personId),
        application,
        askedOf,
        askedBy,
        askedAt,
        until,
        Answer.valueOf(answer),
        answeredAt);
  }
}
