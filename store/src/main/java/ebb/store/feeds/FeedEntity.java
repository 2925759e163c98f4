package ebb.store.feeds;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "feed")
class FeedEntity {
  @Id String source;
  String origin;
  String timetable;
  boolean complete;
  String missing;
  String state;
  String secret;
  String token;
  String mark;

  @Column(name = "tried_import_id")
  Long triedImportId;

  String problem;

  @Column(name = "problem_since")
  Instant problemSince;

  long version;
}
