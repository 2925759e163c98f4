package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "login_name")
class LoginNameEntity {
  @Embeddable
  record Key(String namespace, String name) {}

  @EmbeddedId Key id;

  @Column(name = "person_id")
  long personId;

  @Column(name = "is_current")
  boolean current;

  /** Whether it was found in an application. */
  @Column(name = "is_found")
  boolean found;

  /** By which it was made. */
  int scheme;

  Instant since;
}
