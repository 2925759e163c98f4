package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/** The case that takes accounts from use to removal. */
public record DepartureView(
    long id,
    long version,
    long person,
    String displayName,
    boolean closing,
    String state,
    LocalDate lastDay,
    Long recipient,
    String recipientName,
    String reason,
    Instant startedAt,
    Instant endedAt,
    List<DepartureAccountView> accounts) {}
