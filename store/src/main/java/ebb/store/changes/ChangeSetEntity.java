package ebb.store.changes;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "change_set")
class ChangeSetEntity {
  @Id Long id;
  String cause;
  String title;
  String state;

  @Column(name = "takes_back")
  Long takesBack;

  @Column(name = "taken_back_by")
  Long takenBackBy;

  String stops;
  String remarks;

  @Column(name = "created_by")
  String createdBy;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "released_by")
  String releasedBy;

  @Column(name = "released_at")
  Instant releasedAt;

  long version;
}
