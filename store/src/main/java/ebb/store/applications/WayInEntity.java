package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "way_in")
class WayInEntity {
  @Embeddable
  record Key(@Column(name = "account_id") long accountId, @Column(name = "way_id") String wayId) {}

  @EmbeddedId Key id;
  String kind;
  String what;

  @Column(name = "found_at")
  Instant foundAt;

  @Column(name = "waived_by")
  String waivedBy;

  @Column(name = "waived_at")
  Instant waivedAt;

  String reason;

  WaysFound.Found toFound() {
    return new WaysFound.Found(
        id.accountId(), id.wayId(), kind, what, foundAt, waivedBy, waivedAt, reason);
  }
}
