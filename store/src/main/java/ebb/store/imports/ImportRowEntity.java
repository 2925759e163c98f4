package ebb.store.imports;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "import_row")
class ImportRowEntity {
  @Embeddable
  record Key(@Column(name = "import_id") long importId, long line) {}

  @EmbeddedId Key id;
  String verdict;

  @Column(name = "row_key")
  String rowKey;

  @Column(name = "person_id")
  Long personId;

  @Column(name = "row_values")
  String values;

  String texts;
  String edits;
  String problems;
  String resembles;
  String answer;
}
