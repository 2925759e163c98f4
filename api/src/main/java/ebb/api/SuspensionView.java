package ebb.api;

import java.time.LocalDate;
import java.util.List;
import java.util.Set;

/**
 * An order that keeps a person out of applications for a time.
 *
 * @param reason null where it is discreet and the reader has not that right
 * @param note null where there is none, or it is not for the reader
 * @param until the last day; null until somebody ends it
 * @param review null for none
 * @param applications empty for all
 * @param notices whether what Ebb writes to them goes on meanwhile, to their private address
 * @param by null where it is not for the reader
 * @param inForce whether it has begun
 * @param accounts those that are off, whatever keeps them so
 */
public record SuspensionView(
    long id,
    long person,
    String displayName,
    String department,
    String reason,
    String note,
    LocalDate from,
    LocalDate until,
    LocalDate review,
    Set<String> applications,
    boolean discreet,
    boolean notices,
    String by,
    Long changeSet,
    boolean inForce,
    List<OffAccountView> accounts) {}
