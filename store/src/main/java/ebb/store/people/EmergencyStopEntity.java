package ebb.store.people;

import ebb.core.person.EmergencyStop;
import ebb.core.person.PersonId;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "emergency_stop")
class EmergencyStopEntity {
  @Id
  @Column(name = "person_id")
  Long personId;

  Instant since;

  @Column(name = "ordered_by")
  String by;

  String reason;

  @Column(name = "change_set_id")
  long changeSetId;

  EmergencyStop toStop() {
    return new EmergencyStop(new PersonId(personId), since, by, reason, changeSetId);
  }
}
