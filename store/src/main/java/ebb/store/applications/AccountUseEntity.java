package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "account_use")
class AccountUseEntity {
  @Id
  @Column(name = "account_id")
  Long accountId;

  String application;

  @Column(name = "signed_in_at")
  Instant signedInAt;

  @Column(name = "used_at")
  Instant usedAt;

  @Column(name = "first_asked_at")
  Instant firstAskedAt;

  @Column(name = "asked_at")
  Instant askedAt;

  @Column(name = "idle_since")
  Instant idleSince;

  AccountUses.Idle toIdle() {
    return new AccountUses.Idle(accountId, signedInAt, usedAt, firstAskedAt, askedAt, idleSince);
  }
}
