package ebb.store.changes;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "input")
class InputEntity {
  @Id Long id;

  @Column(name = "change_set_id")
  long changeSetId;

  @Column(name = "person_id")
  long personId;

  String kind;
  String body;
  boolean applied;
}
