package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/**
 * The case that takes accounts from use to removal.
 *
 * @param kind departure, closing or removal
 * @param handOverFrom the day on which handing over begins
 * @param paused who stopped it for a time, and why; null while it goes on
 * @param asksReturn whether somebody has to say that they are not coming back
 * @param notReturning who said so; null while nobody did
 * @param accepted who said that they take what is handed over; null while nobody did
 * @param declined who said that they do not, and why; null after somebody else was named
 * @param turnsBackUntil the first day on which something may be removed; null once something was
 */
public record DepartureView(
    long id,
    long version,
    long person,
    String displayName,
    String kind,
    String state,
    LocalDate lastDay,
    LocalDate handOverFrom,
    Long recipient,
    String recipientName,
    String reason,
    String paused,
    boolean asksReturn,
    String notReturning,
    String accepted,
    String declined,
    LocalDate turnsBackUntil,
    Instant startedAt,
    Instant endedAt,
    List<DepartureStepView> steps,
    List<DepartureAccountView> accounts) {}
