package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "end_warning")
class EndWarningEntity {
  @Id
  @Column(name = "person_id")
  Long personId;

  @Column(name = "end_date")
  LocalDate endDate;
}
