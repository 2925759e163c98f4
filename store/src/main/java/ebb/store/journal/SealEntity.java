package ebb.store.journal;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "journal_seal")
class SealEntity {
  @Id
  @Column(name = "entry_id")
  Long entryId;

  long place;
  String seal;
}
