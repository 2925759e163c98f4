package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "sync_run")
class SyncRunEntity {
  @Id Long id;
  String application;

  @Column(name = "begun_by")
  String begunBy;

  @Column(name = "begun_at")
  Instant begunAt;

  @Column(name = "ended_at")
  Instant endedAt;

  boolean whole;
  String body;
}
