package ebb.store.operators;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "token")
class TokenEntity {
  @Id Long id;
  String operator;
  String label;
  String role;
  String hash;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "expires_at")
  Instant expiresAt;

  @Column(name = "revoked_at")
  Instant revokedAt;
}
