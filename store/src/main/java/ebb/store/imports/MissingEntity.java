package ebb.store.imports;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "import_missing")
class MissingEntity {
  @Embeddable
  record Key(@Column(name = "import_id") long importId, @Column(name = "row_key") String rowKey) {}

  @EmbeddedId Key id;

  @Column(name = "person_id")
  long personId;

  String decision;
}
