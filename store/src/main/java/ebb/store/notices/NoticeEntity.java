package ebb.store.notices;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "notice")
class NoticeEntity {
  @Id Long id;

  @Column(name = "person_id")
  long personId;

  String kind;
  String recipient;
  String subject;
  String about;
  String state;
  Instant due;
  int attempts;
  String problem;

  @Column(name = "created_at")
  Instant createdAt;

  @Column(name = "sent_at")
  Instant sentAt;

  long version;
}
