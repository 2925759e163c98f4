package ebb.store.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "person")
class PersonEntity {
  @Id Long id;

  @Column(name = "display_name")
  String displayName;

  @Column(name = "sort_name")
  String sortName;

  @Column(name = "call_name")
  String callName;

  String login;
  String department;

  @Column(name = "user_type")
  String userType;

  @Column(name = "employee_number")
  String employeeNumber;

  @Column(name = "manager_id")
  Long managerId;

  @Column(name = "start_date")
  LocalDate startDate;

  @Column(name = "end_date")
  LocalDate endDate;

  String attributes;

  @Column(name = "wakes_at")
  Instant wakesAt;

  String unclear;

  long version;
}
