package ebb.api;

import java.time.Instant;

/** A message Ebb sends. */
public record NoticeView(
    long id,
    long person,
    String displayName,
    String kind,
    String recipient,
    String subject,
    String state,
    int attempts,
    ProblemView problem,
    Instant createdAt,
    Instant sentAt) {}
