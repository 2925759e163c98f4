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

  @Column(name = "password_hash")
  String passwordHash;

  @Column(name = "second_factor")
  String secondFactor;

  @Column(name = "second_factor_asked")
  String secondFactorAsked;

  @Column(name = "last_code")
  Long lastCode;

  String units;
  String kinds;

  @Column(name = "person_id")
  Long personId;

  boolean discreet;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "ended_at")
  Instant endedAt;

  long version;
}
