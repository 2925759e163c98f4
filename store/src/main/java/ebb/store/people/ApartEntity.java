package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "apart")
class ApartEntity {
  /** The lower number first. */
  @Embeddable
  record Key(@Column(name = "person_id") long personId, @Column(name = "other_id") long otherId) {
    static Key of(long one, long other) {
      return new Key(Math.min(one, other), Math.max(one, other));
    }
  }

  @EmbeddedId Key id;

  @Column(name = "said_by")
  String saidBy;
}
