package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "standard_attribute")
class StandardAttributeEntity {
  @Id String name;

  @Column(name = "by_hand")
  String byHand;

  long version;
}
