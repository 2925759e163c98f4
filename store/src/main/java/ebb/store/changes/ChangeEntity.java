package ebb.store.changes;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "change")
class ChangeEntity {
  @Id Long id;

  @Column(name = "change_set_id")
  long changeSetId;

  @Column(name = "person_id")
  long personId;

  String application;

  @Column(name = "account_id")
  Long accountId;

  String kind;
  String state;
  Instant due;

  @Column(name = "lease_until")
  Instant leaseUntil;

  @Column(name = "open_needs")
  int openNeeds;

  int attempts;
  String edits;

  @Column(name = "group_name")
  String group;

  String ground;
  boolean usable;
  boolean renames;
  String problem;

  @Column(name = "asked_at")
  Instant askedAt;

  @Column(name = "seen_at")
  Instant seenAt;

  long version;
}
