package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "way_look")
class WayLookEntity {
  @Id
  @Column(name = "account_id")
  Long accountId;

  @Column(name = "next_look")
  Instant nextLook;

  @Column(name = "asked_at")
  Instant askedAt;

  int sessions;
  String problem;
}
