package ebb.store.rules;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "rule_edit")
class RuleEditEntity {
  @Embeddable
  record Key(@Column(name = "set_id") Long set, String name) {}

  @EmbeddedId Key id;

  String body;
  long version;
  String before;
  Long expected;

  @Column(name = "in_force")
  boolean inForce;

  @Column(name = "is_settled")
  boolean settled;
}
