package ebb.store.imports;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "import_problem")
class ImportProblemEntity {
  @Embeddable
  record Key(@Column(name = "import_id") long importId, long line, int number) {}

  @EmbeddedId Key id;
  String code;
  String heading;
  String said;
  String problem;
}
