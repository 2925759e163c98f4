package ebb.store.operators;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "answered")
class AnsweredEntity {
  @Embeddable
  record Key(String operator, @Column(name = "idempotency_key") String idempotencyKey) {}

  @EmbeddedId Key id;

  @Column(name = "request_hash")
  String requestHash;

  Integer status;
  String body;
  String location;
  Instant at;
}
