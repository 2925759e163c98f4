package ebb.store.departures;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "departure")
class DepartureEntity {
  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String kind;
  String state;

  @Column(name = "last_day")
  LocalDate lastDay;

  @Column(name = "hand_over_from")
  LocalDate handOverFrom;

  @Column(name = "recipient_id")
  Long recipientId;

  String reason;

  @Column(name = "asks_return")
  boolean asksReturn;

  @Column(name = "not_returning")
  String notReturning;

  String paused;
  String accepted;
  String declined;

  @Column(name = "started_at")
  Instant startedAt;

  @Column(name = "ended_at")
  Instant endedAt;

  long version;
}
