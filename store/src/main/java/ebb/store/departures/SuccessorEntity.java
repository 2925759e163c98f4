package ebb.store.departures;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "successor")
class SuccessorEntity {
  @Id
  @Column(name = "person_id")
  Long personId;

  @Column(name = "successor_id")
  long successorId;

  @Column(name = "named_by")
  String by;

  @Column(name = "named_at")
  Instant at;
}
