package ebb.store.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "journal_detail")
class DetailEntity {
  @Id
  @Column(name = "entry_id")
  Long entryId;

  @Column(name = "person_id")
  long personId;

  String body;
}
