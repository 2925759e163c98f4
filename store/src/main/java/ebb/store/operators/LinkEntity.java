package ebb.store.operators;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "operator_link")
class LinkEntity {
  @Id String hash;
  String operator;

  @Column(name = "expires_at")
  Instant expiresAt;

  @Column(name = "used_at")
  Instant usedAt;
}
