package ebb.store.turns;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "turn")
class TurnEntity {
  @Id String name;
  String holder;
  String what;
  Instant until;
}
