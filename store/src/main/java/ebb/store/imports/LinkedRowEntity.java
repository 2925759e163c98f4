package ebb.store.imports;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "import_linked")
class LinkedRowEntity {
  @Embeddable
  record Key(@Column(name = "import_id") long importId, String file, long line) {}

  @EmbeddedId Key id;
  String verdict;

  @Column(name = "row_key")
  String rowKey;

  String says;
  String problems;
}
