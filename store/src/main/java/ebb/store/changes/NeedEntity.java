package ebb.store.changes;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

/** That a change needs another one first. */
@Entity
@Table(name = "change_need")
class NeedEntity {
  @Embeddable
  record Key(@Column(name = "change_id") long changeId, @Column(name = "needs_id") long needsId) {}

  @EmbeddedId Key id;

  NeedEntity() {}

  NeedEntity(long change, long first) {
    this.id = new Key(change, first);
  }
}
