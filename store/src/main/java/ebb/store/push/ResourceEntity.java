package ebb.store.push;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "pushed")
class ResourceEntity {
  @Id String id;
  String source;
  String kind;

  @Column(name = "unique_name")
  String uniqueName;

  @Column(name = "external_id")
  String externalId;

  @Column(name = "source_key")
  String sourceKey;

  @Column(name = "former_key")
  String formerKey;

  String body;
  boolean deleted;
  long number;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "edited_at")
  Instant editedAt;

  long version;
}
