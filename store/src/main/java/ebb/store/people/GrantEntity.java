package ebb.store.people;

import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "given")
class GrantEntity {
  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String application;

  @Column(name = "group_name")
  String group;

  String reason;

  @Column(name = "from_date")
  LocalDate from;

  @Column(name = "until_date")
  LocalDate until;

  long cause;

  String source;

  @Column(name = "ended_by")
  Long endedBy;

  Grant toGrant() {
    return new Grant(id, new PersonId(personId), application, group, reason, from, until, source);
  }
}
