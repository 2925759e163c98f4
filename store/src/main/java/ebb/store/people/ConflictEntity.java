package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "conflict")
class ConflictEntity {
  @Embeddable
  record Key(@Column(name = "person_id") long personId, String attribute) {}

  @EmbeddedId Key id;

  /** Of what each source says: where that changes, a choice made before says nothing. */
  String print;

  @Column(name = "settled_by")
  String settledBy;
}
