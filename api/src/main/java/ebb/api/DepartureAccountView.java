package ebb.api;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/**
 * One account of a departure.
 *
 * @param ending what becomes of it once all its gates are open: keep (it stays suspended), strip
 *     (of what is personal) or delete
 * @param restorableUntil the last day on which it can be restored; null while a gate was never open
 * @param reply null where nothing answers for it
 * @param sheet by kind; null until stock is taken
 */
public record DepartureAccountView(
    long id,
    String application,
    String name,
    String level,
    LocalDate deleteFrom,
    List<SheetLineView> sheet,
    String handover,
    Instant provenAt,
    List<GateView> gates,
    String ending,
    String next,
    LocalDate restorableUntil,
    ReplyView reply) {}
