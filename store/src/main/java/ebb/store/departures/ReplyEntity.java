package ebb.store.departures;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "automatic_reply")
class ReplyEntity {
  @Id
  @Column(name = "departure_account_id")
  Long account;

  String state;
  LocalDate until;
  String problem;

  @Column(name = "next_try")
  Instant nextTry;
}
