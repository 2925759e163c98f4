package ebb.store.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "journal_entry")
class EntryEntity {
  @Id Long id;
  Instant at;
  String actor;
  String act;

  @Column(name = "person_id")
  Long personId;

  String reason;
  String commitment;
  String details;
}
