package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "assertion")
class AssertionEntity {
  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String source;
  String asserted;
  long cause;
  Instant since;

  @Column(name = "ended_by")
  Long endedBy;
}
