package ebb.store.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "person_key")
class PersonKeyEntity {
  @Id
  @Column(name = "person_id")
  Long personId;

  String wrapped;
}
