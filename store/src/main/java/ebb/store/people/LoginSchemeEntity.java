package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "login_scheme")
class LoginSchemeEntity {
  @Id int number;
  String body;

  @Column(name = "set_by")
  String setBy;

  @Column(name = "set_at")
  Instant setAt;
}
