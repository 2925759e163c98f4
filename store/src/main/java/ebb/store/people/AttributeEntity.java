package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "attribute")
class AttributeEntity {
  @Id String name;
  String type;
  boolean required;
  String fallback;
  boolean searchable;

  @Column(name = "by_hand")
  String byHand;

  String choices;
  long version;
}
