package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "application")
class ApplicationEntity {
  @Id String name;
  String kind;
  String settings;
  String secret;
  String capabilities;
  String problem;

  @Column(name = "checked_at")
  Instant checkedAt;

  @Column(name = "synced_at")
  Instant syncedAt;

  @Column(name = "paused_by")
  String pausedBy;

  @Column(name = "paused_why")
  String pausedWhy;

  @Column(name = "paused_at")
  Instant pausedAt;

  long version;
}
