package ebb.store.imports;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "import")
class ImportEntity {
  @Id Long id;
  String source;
  String file;
  String print;
  String format;
  String terms;
  String questions;
  String stage;
  String counts;

  long size;

  @Column(name = "written_at")
  Instant writtenAt;

  @Column(name = "took_millis")
  Long tookMillis;

  @Column(name = "change_set_id")
  Long changeSetId;

  @Column(name = "answers_set_id")
  Long answersSetId;

  @Column(name = "created_by")
  String createdBy;

  @Column(name = "created_at")
  Instant createdAt;
}
