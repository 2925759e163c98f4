package ebb.store.feeds;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "feed_run")
class FeedRunEntity {
  @Id Long id;
  String source;
  String cause;
  String outcome;
  String file;

  @Column(name = "import_id")
  Long importId;

  String problem;

  @Column(name = "created_by")
  String createdBy;

  @Column(name = "started_at")
  Instant startedAt;

  @Column(name = "ended_at")
  Instant endedAt;
}
