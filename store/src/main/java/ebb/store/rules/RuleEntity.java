package ebb.store.rules;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "rule")
class RuleEntity {
  @Id String name;
  String application;
  String body;
  long version;
}
