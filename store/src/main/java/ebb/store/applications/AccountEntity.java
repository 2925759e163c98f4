package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "account")
class AccountEntity {
  @Id Long id;
  String application;

  @Column(name = "remote_id")
  String remoteId;

  @Column(name = "person_id")
  Long personId;

  String level;
  String observed;
  String grounds;
  boolean closing;

  @Column(name = "left_alone")
  String leftAlone;

  @Column(name = "stripped_at")
  Instant strippedAt;

  @Column(name = "print_high")
  Long printHigh;

  @Column(name = "print_low")
  Long printLow;

  String likely;

  /** Of which kind it is among what was found, or NONE. */
  String finding;

  @Column(name = "seen_at")
  Instant seenAt;

  long version;
}
