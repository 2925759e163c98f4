package ebb.store.people;

import ebb.core.person.Hold;
import ebb.core.person.PersonId;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "hold")
class HoldEntity {
  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String reason;

  @Column(name = "set_by")
  String setBy;

  @Column(name = "until_date")
  LocalDate until;

  @Column(name = "lifted_at")
  Instant liftedAt;

  Hold toHold() {
    return new Hold(id, new PersonId(personId), reason, setBy, until);
  }
}
