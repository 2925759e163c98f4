package ebb.store.notices;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "ask")
class AskEntity {
  @Id
  @Column(name = "token_hash")
  String tokenHash;

  @Column(name = "notice_id")
  long noticeId;

  @Column(name = "person_id")
  long personId;

  String kind;

  @Column(name = "expires_at")
  Instant expiresAt;

  @Column(name = "used_at")
  Instant usedAt;

  int tries;
}
