package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * One account of a departure.
 *
 * @param restorableUntil the last day on which it can be restored; null while a gate was never open
 * @param sheet kind to what is owned of it, in words
 */
public record DepartureAccountView(
    long id,
    String application,
    String name,
    String level,
    LocalDate deleteFrom,
    Map<String, String> sheet,
    String handover,
    Instant provenAt,
    List<GateView> gates,
    String next,
    LocalDate restorableUntil) {}
