package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "person_clue")
class PersonClueEntity {
  @Embeddable
  record Key(long clue, @Column(name = "person_id") long personId) {}

  @EmbeddedId Key id;
}
