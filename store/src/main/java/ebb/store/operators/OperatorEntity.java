package ebb.store.operators;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "operator")
class OperatorEntity {
  @Id String name;
  String role;

  @Column(name = "created_at")
  Instant createdAt;
}
