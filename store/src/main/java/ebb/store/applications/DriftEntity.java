package ebb.store.applications;

import jakarta.persistence.Column;
import jakarta.persistence.Embeddable;
import jakarta.persistence.EmbeddedId;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "drift")
class DriftEntity {
  @Embeddable
  record Key(String application, @Column(name = "person_id") Long personId) {}

  @EmbeddedId Key id;

  String kind;
  Instant since;

  @Column(name = "look_again")
  boolean lookAgain;
}
