package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "source_key")
class SourceKeyEntity {
  @Embeddable
  record Key(String source, @Column(name = "row_key") String rowKey) {}

  @EmbeddedId Key id;

  @Column(name = "person_id")
  long personId;

  @Column(name = "row_hash")
  String rowHash;
}
