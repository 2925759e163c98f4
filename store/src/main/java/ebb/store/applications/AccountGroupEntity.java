package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;

@Entity
@Table(name = "account_group")
class AccountGroupEntity {
  @Embeddable
  record Key(@Column(name = "account_id") Long account, String name) {}

  @EmbeddedId Key id;

  String application;
  boolean given;
}
