package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "group_mark")
class GroupMarkEntity {
  @Id String name;
  String risk;
  String scope;
  Integer most;

  @Column(name = "set_by")
  String setBy;

  @Column(name = "set_at")
  Instant setAt;
}
