package ebb.store.departures;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "departure_account")
class DepartureAccountEntity {
  @Id Long id;

  @Column(name = "departure_id")
  long departureId;

  @Column(name = "account_id")
  long accountId;

  String application;

  @Column(name = "delete_from")
  LocalDate deleteFrom;

  String sheet;

  @Column(name = "references_found")
  String references;

  String handover;

  @Column(name = "transfer_id")
  String transferId;

  @Column(name = "handover_attempt")
  int attempt;

  @Column(name = "proven_at")
  Instant provenAt;

  String problem;
  String waivers;

  @Column(name = "end_asked")
  boolean endAsked;

  boolean stays;

  @Column(name = "restorable_until")
  LocalDate restorableUntil;

  @Column(name = "shut_since")
  String shutSince;

  @Column(name = "next_look")
  Instant nextLook;

  /** Written with the claim alone; whatever is written afterwards ends it. */
  @Column(name = "is_claimed")
  boolean claimed;

  long version;
}
