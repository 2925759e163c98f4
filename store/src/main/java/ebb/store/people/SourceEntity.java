package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "source")
class SourceEntity {
  @Id String name;

  @Column(name = "source_rank")
  int rank;

  String kind;
  String mapping;
  long version;
}
