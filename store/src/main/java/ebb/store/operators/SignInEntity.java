package ebb.store.operators;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "sign_in")
class SignInEntity {
  @Id String hash;
  String operator;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "used_at")
  Instant usedAt;

  @Column(name = "expires_at")
  Instant expiresAt;
}
