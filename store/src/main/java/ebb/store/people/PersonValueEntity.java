package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "person_value")
class PersonValueEntity {
  @Embeddable
  record Key(@Column(name = "person_id") long personId, String name) {}

  @EmbeddedId Key id;
  String folded;
}
