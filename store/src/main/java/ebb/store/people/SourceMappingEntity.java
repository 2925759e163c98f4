package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "source_mapping")
class SourceMappingEntity {
  @Embeddable
  record Key(String source, long version) {}

  @EmbeddedId Key id;
  String mapping;

  @Column(name = "created_by")
  String createdBy;

  @Column(name = "created_at")
  Instant createdAt;
}
