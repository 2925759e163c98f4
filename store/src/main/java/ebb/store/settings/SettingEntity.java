package ebb.store.settings;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "setting")
class SettingEntity {
  @Id String name;

  @Column(name = "setting_value")
  String value;
}
